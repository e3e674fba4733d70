-- What an edition is to those before it, and what changed, in a sentence; empty of those frozen
-- before that was said.
-- +goose Up
ALTER TABLE editions ADD COLUMN kind text NOT NULL DEFAULT '';
ALTER TABLE editions ADD COLUMN changed text NOT NULL DEFAULT '';

-- What is said once of who publishes: a JSON object.
ALTER TABLE publication ALTER COLUMN itu_region DROP NOT NULL;
ALTER TABLE publication ADD COLUMN about jsonb NOT NULL DEFAULT '{}';

-- What the reviewer adds to an edition of their own (a recommendation, photographs ticked), and the
-- review that this one is the re-test of.
ALTER TABLE reviews ADD COLUMN adds jsonb NOT NULL DEFAULT '{}';
ALTER TABLE reviews ADD COLUMN follows uuid REFERENCES reviews (id);

-- What was written about a review: by its maker, a seller, a reader, a laboratory, or asked of
-- readers. Never changed; another that replaces one stands in its place, and with no text takes it out.
CREATE TABLE letters (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    review_id uuid NOT NULL REFERENCES reviews (id),
    replaces uuid REFERENCES letters (id),
    kind text NOT NULL,
    sender text NOT NULL,
    name text NOT NULL,
    said_on text NOT NULL,
    about text NOT NULL,
    body text NOT NULL,
    may_print boolean NOT NULL,
    serial text NOT NULL,
    date_code text NOT NULL,
    written_at timestamptz NOT NULL
);
CREATE INDEX letters_review ON letters (review_id, seq);
CREATE TRIGGER letters_are_facts BEFORE UPDATE OR DELETE ON letters FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER letters_are_not_emptied BEFORE TRUNCATE ON letters FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- Figures of somebody else on the model of a review, to be shown beside ours and never mixed with them. Never
-- changed; another that replaces one stands in its place, and with no figure takes it out.
CREATE TABLE outside_figures (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    review_id uuid NOT NULL REFERENCES reviews (id),
    replaces uuid REFERENCES outside_figures (id),
    box text NOT NULL,
    watts double precision,
    room_db double precision,
    source text NOT NULL,
    said_on text NOT NULL,
    written_at timestamptz NOT NULL
);
CREATE INDEX outside_figures_review ON outside_figures (review_id, seq);
CREATE TRIGGER outside_figures_are_facts BEFORE UPDATE OR DELETE ON outside_figures FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER outside_figures_are_not_emptied BEFORE TRUNCATE ON outside_figures FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- Comparisons frozen into a page of their own. Never changed.
CREATE TABLE comparisons (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    title text NOT NULL,
    frozen_at timestamptz NOT NULL,
    sha256 text NOT NULL,
    page bytea NOT NULL
);
CREATE TRIGGER comparisons_are_facts BEFORE UPDATE OR DELETE ON comparisons FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER comparisons_are_not_emptied BEFORE TRUNCATE ON comparisons FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- +goose Down
DROP TABLE comparisons;
DROP TABLE outside_figures;
DROP TABLE letters;
ALTER TABLE reviews DROP COLUMN follows;
ALTER TABLE reviews DROP COLUMN adds;
ALTER TABLE publication DROP COLUMN about;
DELETE FROM publication WHERE itu_region IS NULL;
ALTER TABLE publication ALTER COLUMN itu_region SET NOT NULL;
ALTER TABLE editions DROP COLUMN changed;
ALTER TABLE editions DROP COLUMN kind;
