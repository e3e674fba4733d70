package store

import (
	"context"

	"github.com/jackc/pgx/v5"
)

// channel is the name under which servers on one database tell each other what was done.
const channel = "talloak"

// Notify tells every server on this database something, itself among them.
func (s *Store) Notify(ctx context.Context, text string) error {
	return s.db.WithContext(ctx).Exec("SELECT pg_notify(?, ?)", channel, text).Error
}

// Listen hands on what any server on this database tells, until the connection or ctx ends.
// Ready is called when it listens: what was told before was not heard.
func (s *Store) Listen(ctx context.Context, ready func(), heard func(text string)) error {
	c, err := pgx.ConnectConfig(ctx, s.config.Copy())
	if err != nil {
		return err
	}
	defer func() { _ = c.Close(context.WithoutCancel(ctx)) }()
	if _, err := c.Exec(ctx, "LISTEN "+channel); err != nil {
		return err
	}
	ready()
	for {
		n, err := c.WaitForNotification(ctx)
		if err != nil {
			return err
		}
		heard(n.Payload)
	}
}
