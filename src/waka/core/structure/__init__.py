"""How folders are arranged: trees made from templates, levels that hold too much or too little."""
