-- +goose Up
CREATE TABLE reviews (
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    version integer NOT NULL,
    created_at timestamptz NOT NULL,
    updated_at timestamptz NOT NULL,
    subject jsonb NOT NULL,
    claims jsonb NOT NULL,
    rules jsonb NOT NULL
);

CREATE TABLE kit (
    id uuid PRIMARY KEY,
    position integer NOT NULL,
    name text NOT NULL,
    spec jsonb NOT NULL,
    retired_at timestamptz
);

CREATE TABLE paths (
    id uuid PRIMARY KEY,
    position integer NOT NULL,
    name text NOT NULL,
    purpose text NOT NULL,
    kit_ids jsonb NOT NULL,
    applied_offset_db double precision NOT NULL
);

CREATE TABLE readings (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    review_id uuid NOT NULL REFERENCES reviews (id),
    taken_at timestamptz NOT NULL,
    band text NOT NULL,
    level text NOT NULL,
    mode text NOT NULL,
    frequency_hz double precision NOT NULL,
    text text NOT NULL,
    through jsonb NOT NULL
);
CREATE INDEX readings_review ON readings (review_id, seq);

CREATE TABLE sweeps (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    review_id uuid NOT NULL REFERENCES reviews (id),
    taken_at timestamptz NOT NULL,
    band text NOT NULL,
    level text NOT NULL,
    mode text NOT NULL,
    frequency_hz double precision NOT NULL,
    name text NOT NULL,
    detector text NOT NULL,
    hold text NOT NULL,
    through jsonb NOT NULL,
    start_hz double precision NOT NULL,
    stop_hz double precision NOT NULL,
    rbw_hz double precision NOT NULL,
    points integer NOT NULL,
    taken text NOT NULL,
    levels bytea NOT NULL,
    original bytea NOT NULL
);
CREATE INDEX sweeps_review ON sweeps (review_id, seq);

CREATE TABLE standings (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    review_id uuid NOT NULL REFERENCES reviews (id),
    target text NOT NULL,
    target_id uuid NOT NULL,
    standing text NOT NULL,
    reason text NOT NULL,
    said_at timestamptz NOT NULL
);
CREATE INDEX standings_review ON standings (review_id, seq);

CREATE TABLE editions (
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    review_id uuid NOT NULL REFERENCES reviews (id),
    number integer NOT NULL,
    frozen_at timestamptz NOT NULL,
    title text NOT NULL,
    headline text NOT NULL,
    sha256 text NOT NULL,
    document bytea NOT NULL,
    page bytea NOT NULL,
    UNIQUE (review_id, number)
);

-- +goose StatementBegin
CREATE FUNCTION refuse_change() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION '% is append-only', TG_TABLE_NAME USING ERRCODE = 'integrity_constraint_violation';
END $$;
-- +goose StatementEnd
CREATE TRIGGER readings_are_facts BEFORE UPDATE OR DELETE ON readings FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER sweeps_are_facts BEFORE UPDATE OR DELETE ON sweeps FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER standings_are_facts BEFORE UPDATE OR DELETE ON standings FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER editions_are_frozen BEFORE UPDATE OR DELETE ON editions FOR EACH ROW EXECUTE FUNCTION refuse_change();

-- +goose Down
DROP TABLE editions, standings, sweeps, readings, paths, kit, reviews;
DROP FUNCTION refuse_change;
