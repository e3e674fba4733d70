package main

import (
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"talloak/store"
)

func backupCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "backup FILE",
		Short: "Write everything that is kept into a new file; - is standard output",
		Args:  cobra.ExactArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			s, err := openStore(cmd.Context())
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
			in := cmd.InOrStdin()
			if args[0] != "-" {
				f, err := os.Open(args[0])
				if err != nil {
					return err
				}
				defer f.Close()
				in = f
			}
			return store.Restore(cmd.Context(), url, in)
		},
	}
}

func verifyCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "verify",
		Short: "Recompute the sums of every edition, data and page, and say what does not match",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			s, err := openStore(cmd.Context())
			if err != nil {
				return err
			}
			defer s.Close()
			wrong, looked, err := newApp(s).Verify(cmd.Context())
			if err != nil {
				return err
			}
			for _, w := range wrong {
				fmt.Fprintln(cmd.OutOrStdout(), w)
			}
			if len(wrong) > 0 {
				return fmt.Errorf("%d things do not match in %d editions", len(wrong), looked)
			}
			fmt.Fprintf(cmd.OutOrStdout(), "%d editions, each with its data and page as they were frozen\n", looked)
			return nil
		},
	}
}
