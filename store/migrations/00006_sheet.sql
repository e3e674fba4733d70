-- What a person chose of the run sheet of a review.
-- +goose Up
ALTER TABLE reviews ADD COLUMN sheet jsonb NOT NULL DEFAULT '{}';

-- +goose Down
ALTER TABLE reviews DROP COLUMN sheet;
