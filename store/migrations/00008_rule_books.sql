-- Rule books of the user's own, and what was said of any: that it was checked against the
-- text, that it is withdrawn. Never changed: what was written last of a book counts.
-- +goose Up
CREATE TABLE rule_books (
    seq bigint GENERATED ALWAYS AS IDENTITY,
    id uuid PRIMARY KEY,
    request_hash text NOT NULL,
    book_id text NOT NULL,
    what text NOT NULL CHECK (what IN ('book', 'checked', 'withdrawn')),
    content jsonb NOT NULL,
    written_at timestamptz NOT NULL
);
CREATE INDEX rule_books_book ON rule_books (book_id, seq);
CREATE TRIGGER rule_books_are_facts BEFORE UPDATE OR DELETE ON rule_books FOR EACH ROW EXECUTE FUNCTION refuse_change();
CREATE TRIGGER rule_books_are_not_emptied BEFORE TRUNCATE ON rule_books FOR EACH STATEMENT EXECUTE FUNCTION refuse_change();

-- +goose Down
DROP TABLE rule_books;
