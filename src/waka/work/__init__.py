"""Use cases, one module each, named by the verb: open the transaction, ask who may, call core and store."""
