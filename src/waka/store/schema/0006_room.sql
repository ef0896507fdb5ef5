-- A place that moves or gets another name is written anew: with room on its page it stays there, so that one page is logged and
-- written, not two, and nothing has to be locked for the way over. Pages that are full already stay so until they are cleaned up.
ALTER TABLE entry SET (fillfactor = 50);
