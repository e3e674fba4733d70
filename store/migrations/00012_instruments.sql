-- Where an item of kit listens, and the driver by which it is spoken with.
-- +goose Up
CREATE TABLE sockets (
    kit_id uuid PRIMARY KEY REFERENCES kit (id) ON DELETE CASCADE,
    address text NOT NULL,
    driver text NOT NULL
);

-- Drivers of the user's own, as they were brought in.
CREATE TABLE drivers (
    id text PRIMARY KEY,
    body jsonb NOT NULL
);

-- A review, an item or a path of practice: of the scenario, or of the review, it is for. Null for what
-- is real.
ALTER TABLE reviews ADD COLUMN practice text NOT NULL DEFAULT '';
ALTER TABLE kit ADD COLUMN practice uuid REFERENCES reviews (id);
ALTER TABLE paths ADD COLUMN practice uuid REFERENCES reviews (id);

-- What happened on a practice bench: a JSON object that is written anew with each event.
CREATE TABLE practice (
    review_id uuid PRIMARY KEY REFERENCES reviews (id),
    scenario text NOT NULL,
    seed bigint NOT NULL,
    begun_at timestamptz NOT NULL,
    kept jsonb NOT NULL
);

-- +goose Down
DROP TABLE practice;
ALTER TABLE paths DROP COLUMN practice;
ALTER TABLE kit DROP COLUMN practice;
ALTER TABLE reviews DROP COLUMN practice;
DROP TABLE drivers;
DROP TABLE sockets;
