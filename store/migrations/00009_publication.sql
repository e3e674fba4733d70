-- What is said once of the publication: the ITU region from which new reviews begin. One row,
-- none until somebody said it.
-- +goose Up
CREATE TABLE publication (
    id integer PRIMARY KEY DEFAULT 1 CHECK (id = 1),
    itu_region integer NOT NULL CHECK (itu_region BETWEEN 1 AND 3)
);

-- +goose Down
DROP TABLE publication;
