-- Times are timestamptz (UTC); facts' dates are dates without zone; money is numeric beside its currency.

CREATE EXTENSION IF NOT EXISTS pg_trgm;

CREATE TABLE drive_setting (
    key   text PRIMARY KEY,
    value jsonb NOT NULL
);
