-- +goose Up
-- A review that was put away is in no list until it is brought back; it and its editions stay.
ALTER TABLE reviews ADD COLUMN away boolean NOT NULL DEFAULT false;

-- +goose Down
ALTER TABLE reviews DROP COLUMN away;
