-- +goose Up
ALTER TABLE kit ADD COLUMN version integer NOT NULL DEFAULT 1;

ALTER TABLE paths
    ADD COLUMN version integer NOT NULL DEFAULT 1,
    ADD COLUMN socket text NOT NULL DEFAULT '',
    ADD COLUMN parts jsonb NOT NULL DEFAULT '[]',
    ADD COLUMN supply jsonb,
    ADD COLUMN retired_at timestamptz;
UPDATE paths SET parts = coalesce(
    (SELECT jsonb_agg(jsonb_build_object('kit_id', k, 'setting', '') ORDER BY n)
     FROM jsonb_array_elements_text(kit_ids) WITH ORDINALITY AS t (k, n)), '[]');
ALTER TABLE paths DROP COLUMN kit_ids, DROP COLUMN purpose;

-- Items and paths stand in the order they were written.
CREATE SEQUENCE bench_order START 1000;
ALTER TABLE kit ALTER COLUMN position SET DEFAULT nextval('bench_order');
ALTER TABLE paths ALTER COLUMN position SET DEFAULT nextval('bench_order');

CREATE TABLE stacks (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    taken_at timestamptz NOT NULL,
    measured_on text NOT NULL,
    parts jsonb NOT NULL,
    found jsonb NOT NULL,
    evidence jsonb NOT NULL
);

CREATE TABLE baselines (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    taken_at timestamptz NOT NULL,
    measured_on text NOT NULL,
    meters jsonb NOT NULL,
    rows jsonb NOT NULL
);
CREATE TRIGGER stacks_are_facts BEFORE UPDATE OR DELETE ON stacks FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER baselines_are_facts BEFORE UPDATE OR DELETE ON baselines FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- Which measurements used an item is asked before it may be removed.
CREATE INDEX readings_kit ON readings USING gin ((through -> 'kit') jsonb_path_ops);
CREATE INDEX sweeps_kit ON sweeps USING gin ((through -> 'kit') jsonb_path_ops);

-- +goose Down
DROP INDEX sweeps_kit;
DROP INDEX readings_kit;
DROP TABLE baselines, stacks;
ALTER TABLE paths ADD COLUMN purpose text NOT NULL DEFAULT '', ADD COLUMN kit_ids jsonb NOT NULL DEFAULT '[]';
UPDATE paths SET kit_ids = coalesce((SELECT jsonb_agg(p -> 'kit_id' ORDER BY n) FROM jsonb_array_elements(parts) WITH ORDINALITY AS t (p, n)), '[]');
ALTER TABLE paths DROP COLUMN version, DROP COLUMN socket, DROP COLUMN parts, DROP COLUMN supply, DROP COLUMN retired_at;
ALTER TABLE kit DROP COLUMN version, ALTER COLUMN position DROP DEFAULT;
ALTER TABLE paths ALTER COLUMN position DROP DEFAULT;
DROP SEQUENCE bench_order;
