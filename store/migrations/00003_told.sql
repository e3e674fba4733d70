-- +goose Up
-- Whether the carrier was bare or modulated; empty where nobody told.
ALTER TABLE sweeps ADD COLUMN modulated text NOT NULL DEFAULT '';

-- +goose Down
ALTER TABLE sweeps DROP COLUMN modulated;
