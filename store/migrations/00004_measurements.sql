-- +goose Up
-- One table for every kind of measurement. What a kind keeps of one is its payload, in a
-- form whose version stands beside it; what is too long for that is the blob.
CREATE TABLE measurements (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    review_id uuid NOT NULL REFERENCES reviews (id),
    kind text NOT NULL,
    format integer NOT NULL,
    taken_at timestamptz NOT NULL,
    band text NOT NULL,
    level text NOT NULL,
    mode text NOT NULL,
    frequency_hz double precision NOT NULL,
    payload jsonb NOT NULL,
    through jsonb NOT NULL,
    blob bytea
);

-- The files that measurements were read from, as they came, packed by gzip.
CREATE TABLE files (
    id uuid PRIMARY KEY REFERENCES measurements (id),
    name text NOT NULL,
    media_type text NOT NULL,
    packed bytea NOT NULL
);

INSERT INTO measurements (id, request_hash, review_id, kind, format, taken_at, band, level, mode, frequency_hz, payload, through, blob)
SELECT id, request_hash, review_id, kind, 1, taken_at, band, level, mode, frequency_hz, payload, through, blob FROM (
    SELECT id, request_hash, review_id, 'power' AS kind, 1 AS which, seq, taken_at, band, level, mode, frequency_hz,
        jsonb_build_object('text', text) AS payload, through, NULL::bytea AS blob
    FROM readings
    UNION ALL
    SELECT id, request_hash, review_id, 'emissions', 2, seq, taken_at, band, level, mode, frequency_hz,
        jsonb_build_object('name', name, 'detector', detector, 'hold', hold, 'modulated', modulated, 'start_hz', start_hz,
            'stop_hz', stop_hz, 'rbw_hz', rbw_hz, 'points', points, 'taken', taken), through, levels
    FROM sweeps
) AS older ORDER BY taken_at, which, seq;

-- Files of older sweeps stay where they are until they are read: packing is not SQL's.
ALTER TABLE sweeps DROP COLUMN levels;
ALTER TABLE sweeps RENAME TO older_files;
DROP INDEX sweeps_review, sweeps_kit;
ALTER TABLE older_files
    DROP COLUMN seq, DROP COLUMN request_hash, DROP COLUMN review_id, DROP COLUMN taken_at, DROP COLUMN band, DROP COLUMN level,
    DROP COLUMN mode, DROP COLUMN frequency_hz, DROP COLUMN detector, DROP COLUMN hold, DROP COLUMN modulated, DROP COLUMN through,
    DROP COLUMN start_hz, DROP COLUMN stop_hz, DROP COLUMN rbw_hz, DROP COLUMN points, DROP COLUMN taken;
DROP TABLE readings;

CREATE INDEX measurements_review ON measurements (review_id, seq);
CREATE INDEX measurements_kit ON measurements USING gin ((through -> 'kit') jsonb_path_ops);

ALTER TABLE standings DROP COLUMN target;

-- Rulings as they were worked out, under what they were worked out from; nothing is lost
-- with them.
CREATE TABLE rulings (
    review_id uuid PRIMARY KEY REFERENCES reviews (id),
    basis text NOT NULL,
    summary jsonb NOT NULL
);

-- The page of an edition has its own sum; older ones have theirs from now on.
ALTER TABLE editions ADD COLUMN page_sha256 text NOT NULL DEFAULT '';
ALTER TABLE editions DISABLE TRIGGER editions_are_frozen;
UPDATE editions SET page_sha256 = encode(sha256(page), 'hex');
ALTER TABLE editions ENABLE TRIGGER editions_are_frozen;

CREATE INDEX reviews_order ON reviews (updated_at DESC, id);
CREATE INDEX standings_target ON standings (target_id);

CREATE TRIGGER measurements_are_facts BEFORE UPDATE OR DELETE ON measurements FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER files_are_facts BEFORE UPDATE OR DELETE ON files FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER measurements_are_kept BEFORE TRUNCATE ON measurements EXECUTE FUNCTION refuse_change();
CREATE TRIGGER files_are_kept BEFORE TRUNCATE ON files EXECUTE FUNCTION refuse_change();
CREATE TRIGGER older_files_are_kept BEFORE TRUNCATE ON older_files EXECUTE FUNCTION refuse_change();
CREATE TRIGGER standings_are_kept BEFORE TRUNCATE ON standings EXECUTE FUNCTION refuse_change();
CREATE TRIGGER editions_are_kept BEFORE TRUNCATE ON editions EXECUTE FUNCTION refuse_change();
CREATE TRIGGER stacks_are_kept BEFORE TRUNCATE ON stacks EXECUTE FUNCTION refuse_change();
CREATE TRIGGER baselines_are_kept BEFORE TRUNCATE ON baselines EXECUTE FUNCTION refuse_change();

-- +goose Down
-- Going back would lose what kinds of measurement an older program does not know: restore a backup instead.
-- +goose StatementBegin
DO $$ BEGIN RAISE EXCEPTION 'restore a backup made before this version instead'; END $$;
-- +goose StatementEnd
