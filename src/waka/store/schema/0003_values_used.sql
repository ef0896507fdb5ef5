-- What was written for people, courses and tasks lately: it is offered while one types.
CREATE INDEX fact_values_used ON fact (field, document) WHERE field IN ('person', 'course', 'task');
