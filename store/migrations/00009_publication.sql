-- What is said once of the publication: the ITU region from which new reviews begin. One row,
-- none until somebody said it.
-- +goose Up
CREATE TABLE publication (
    only_one boolean PRIMARY KEY DEFAULT true CHECK (only_one),
    itu_region integer NOT NULL CHECK (itu_region BETWEEN 1 AND 3)
);

-- +goose Down
DROP TABLE publication;
