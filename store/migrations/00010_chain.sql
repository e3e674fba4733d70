-- What an edition was frozen of, so that nothing is frozen twice; empty of older ones, of
-- which it is not known.
-- +goose Up
ALTER TABLE editions ADD COLUMN basis text NOT NULL DEFAULT '';

-- Every fact in the order written, each with a sum over it and all before it: what is taken
-- out, changed or slipped in does not fit. Facts older than the chain are put in at the first
-- start (store.chainOlder), all behind link 0 or none.
CREATE TABLE chain (
    seq bigint PRIMARY KEY,
    fact text NOT NULL,
    fact_id uuid NOT NULL,
    fact_sum text NOT NULL,
    sum text NOT NULL,
    UNIQUE (fact, fact_id)
);
CREATE TRIGGER chain_is_kept_whole BEFORE UPDATE OR DELETE ON chain FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER chain_is_not_emptied BEFORE TRUNCATE ON chain FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- The salt of the shared password's hash: the same for all servers on this database, and of
-- this database alone.
CREATE TABLE log_in (
    id integer PRIMARY KEY DEFAULT 1 CHECK (id = 1),
    salt bytea NOT NULL
);
INSERT INTO log_in (salt) VALUES (sha256(convert_to(gen_random_uuid()::text || gen_random_uuid()::text, 'UTF8')));

-- +goose Down
DROP TABLE log_in;
DROP TABLE chain;
ALTER TABLE editions DROP COLUMN basis;
