-- Photographs: of a meter beside a reading, of a page of a manual beside a claim. Never
-- changed. What is no measurement of the review is a claim's text in "about".
-- +goose Up
CREATE TABLE photos (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    review_id uuid NOT NULL REFERENCES reviews (id),
    about text NOT NULL,
    name text NOT NULL,
    media_type text NOT NULL,
    taken_at timestamptz NOT NULL,
    sha256 text NOT NULL,
    content bytea NOT NULL
);
CREATE INDEX photos_review ON photos (review_id, seq);
CREATE TRIGGER photos_are_facts BEFORE UPDATE OR DELETE ON photos FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER photos_are_not_emptied BEFORE TRUNCATE ON photos FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- +goose Down
DROP TABLE photos;
