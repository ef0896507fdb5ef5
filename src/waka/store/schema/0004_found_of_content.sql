-- What the newest version of a document says otherwise than its facts is found by that version's content.
CREATE INDEX found_fact_content ON found_fact (content);
