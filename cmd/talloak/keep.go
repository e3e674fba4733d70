package main

import (
	"context"
	"errors"
	"fmt"
	"io"
	"log/slog"
	"os"
	"path/filepath"
	"time"

	"github.com/spf13/cobra"

	"talloak/store"
)

// backupsTo is the environment variable that names the folder of backups made by themselves,
// before a database is brought to a newer version.
const backupsTo = "TALLOAK_BACKUPS"

// openStore opens the database and brings it up to date, behind a backup of what it was.
func openStore(ctx context.Context) (*store.Store, error) {
	url, err := databaseAddress()
	if err != nil {
		return nil, err
	}
	return store.OpenKeeping(ctx, url, func(s *store.Store, from, to int64) error {
		folder := os.Getenv(backupsTo)
		if folder == "" {
			folder = "talloak-backups"
		}
		name := filepath.Join(folder, fmt.Sprintf("version-%d-before-%d-%s.talloak", from, to, time.Now().UTC().Format("20060102T150405.000Z")))
		if err := os.MkdirAll(folder, 0o700); err != nil {
			return fmt.Errorf("the database has to be brought from version %d to %d, and no backup can be made of it first: %w; %s names another folder", from, to, err, backupsTo)
		}
		if err := writeNew(name, func(w io.Writer) error { return s.Backup(ctx, w) }); err != nil {
			return fmt.Errorf("the database has to be brought from version %d to %d, and no backup could be made of it first: %w", from, to, err)
		}
		slog.Warn("the database is brought to a newer version; a backup that the older program can restore was made before", "from", from, "to", to, "backup", name)
		return nil
	})
}

// lookStore opens the database as it is.
func lookStore(ctx context.Context) (*store.Store, error) {
	url, err := databaseAddress()
	if err != nil {
		return nil, err
	}
	return store.Look(ctx, url)
}

func backupCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "backup FILE",
		Short: "Write everything that is kept into a new file; - is standard output",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			s, err := lookStore(cmd.Context())
			if err != nil {
				return err
			}
			defer s.Close()
			if args[0] == "-" {
				return s.Backup(cmd.Context(), cmd.OutOrStdout())
			}
			return writeNew(args[0], func(w io.Writer) error { return s.Backup(cmd.Context(), w) })
		},
	}
}

// writeNew writes a file that was not there, whole or not at all.
func writeNew(name string, write func(io.Writer) error) error {
	if _, err := os.Stat(name); err == nil {
		return fmt.Errorf("%s is there already; give another name", name)
	}
	f, err := os.OpenFile(name+".part", os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o600)
	if err != nil {
		return err
	}
	if err := errors.Join(write(f), f.Sync(), f.Close()); err != nil {
		return errors.Join(err, os.Remove(f.Name()))
	}
	return os.Rename(f.Name(), name)
}

// readFrom opens a file, or standard input where it is -.
func readFrom(cmd *cobra.Command, name string) (io.ReadCloser, error) {
	if name == "-" {
		return io.NopCloser(cmd.InOrStdin()), nil
	}
	return os.Open(name)
}

func restoreCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "restore FILE",
		Short: "Read a backup into an empty database; - is standard input",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			url, err := databaseAddress()
			if err != nil {
				return err
			}
			in, err := readFrom(cmd, args[0])
			if err != nil {
				return err
			}
			defer in.Close()
			return store.Restore(cmd.Context(), url, in)
		},
	}
}

// verifyBackup reads a backup whole, and says what it holds.
func verifyBackup(in io.Reader) (string, error) {
	made, err := store.CheckBackup(in)
	if err != nil {
		return "", err
	}
	if made == nil {
		return "", errors.New("the backup is whole, but of a version that wrote no manifest: it cannot be told whether it was altered")
	}
	rows := int64(0)
	for _, t := range made.Tables {
		rows += t.Rows
	}
	return fmt.Sprintf("%d rows in %d tables, as its manifest says; made %s, its chain ends at %s", rows, len(made.Tables), made.MadeAt.Format(time.RFC3339), made.Head), nil
}
