package main

import (
	"bufio"
	"crypto/ed25519"
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"talloak/app"
	"talloak/core/kinds"
	"talloak/publish"
	"talloak/store"
)

// checkedTo is what files came to that were checked, as an exit code.
type checkedTo publish.Outcome

// Error says it in words.
func (c checkedTo) Error() string {
	switch publish.Outcome(c) {
	case publish.Damaged:
		return "it is damaged, or its rulings are not those of its data"
	case publish.NotOurs:
		return "it is no edition"
	case publish.Otherwise:
		return "this program rules otherwise"
	}
	return "it is whole"
}

func verifyCommand() *cobra.Command {
	headOnly, kept, keyFile := false, "", ""
	cmd := &cobra.Command{
		Use:   "verify [FILE...]",
		Short: "Check an edition's page, data or package, and work its rulings out anew; without a file, check the database",
		Long: `With files: each is the page, the data or the data package of an edition, or a backup. No database is
needed and nothing is written. Every byte is held to the sums in the file, its signature is checked where
it has one, and every ruling and figure is worked out anew from the data in it.

  0  whole, and every ruling worked out anew is the one printed
  1  damaged, or a ruling is not the one that its data give; with --key, not signed by that key
  2  nothing in it says that it is an edition
  3  whole, but this program, a later one, rules otherwise

Without files it recomputes the chain of sums over all facts in the database, looks for gaps, for facts that
were slipped in and for triggers that are off, and holds every edition to its sums and its rulings to its own
data. The head of the chain, which --head prints, can be kept elsewhere: with --kept it is looked for.`,
		RunE: func(cmd *cobra.Command, args []string) error {
			if len(args) == 0 {
				return verifyDatabase(cmd, headOnly, kept)
			}
			var key ed25519.PublicKey
			if keyFile != "" {
				text, err := os.ReadFile(keyFile)
				if err == nil {
					key, err = app.ParsePublic(text)
				}
				if err != nil {
					return fmt.Errorf("--key %s: %w", keyFile, err)
				}
			}
			worst := publish.Whole
			for _, name := range args {
				outcome, err := verifyFile(cmd, name, key, len(args) > 1)
				if err != nil {
					return err
				}
				worst = worst.Worse(outcome)
			}
			if worst != publish.Whole {
				return checkedTo(worst)
			}
			return nil
		},
	}
	cmd.Flags().BoolVar(&headOnly, "head", false, "print the head of the chain, to be kept elsewhere")
	cmd.Flags().StringVar(&kept, "kept", "", "a head that was kept elsewhere: it must be in the chain")
	cmd.Flags().StringVar(&keyFile, "key", "", "the publication's public key, as `talloak key show` prints it: the files must be signed by it")
	return cmd
}

// mostRead is how much is read of a file, in bytes: no edition comes near it.
const mostRead = publish.MostUnpacked

func verifyFile(cmd *cobra.Command, name string, key ed25519.PublicKey, several bool) (publish.Outcome, error) {
	in, err := readFrom(cmd, name)
	if err != nil {
		return 0, err
	}
	defer in.Close()
	file := bufio.NewReader(in)
	out := cmd.OutOrStdout()
	prefix := ""
	if several {
		prefix = name + ": "
	}
	if start, _ := file.Peek(2); string(start) == "\x1f\x8b" { // a backup is packed by gzip, and may be of any length
		words, err := verifyBackup(file)
		if errors.Is(err, store.ErrNoBackup) {
			fmt.Fprintln(out, prefix+"nothing in it says that it is an edition or a backup")
			return publish.NotOurs, nil
		}
		if err != nil {
			fmt.Fprintln(out, prefix+"backup: "+err.Error())
			return publish.Damaged, nil
		}
		fmt.Fprintln(out, prefix+words)
		return publish.Whole, nil
	}
	content, err := io.ReadAll(io.LimitReader(file, mostRead+1))
	if err != nil {
		return 0, err
	}
	if len(content) > mostRead {
		fmt.Fprintf(out, "%sit is over %d MiB, which no edition is\n", prefix, mostRead>>20)
		return publish.NotOurs, nil
	}
	found := publish.Check(content, kinds.All(), key)
	for _, line := range found.Lines {
		fmt.Fprintln(out, prefix+line)
	}
	conclusion := checkedTo(found.Outcome).Error()
	if found.Outcome == publish.Whole && found.Older {
		conclusion = "nothing speaks against it; its rulings were not worked out anew"
	}
	fmt.Fprintln(out, prefix+"so "+conclusion)
	return found.Outcome, nil
}

func verifyDatabase(cmd *cobra.Command, headOnly bool, kept string) error {
	out := cmd.OutOrStdout()
	s, err := lookStore(cmd.Context())
	if err != nil {
		return err
	}
	defer s.Close()
	if headOnly {
		head, err := s.Head(cmd.Context())
		if err == nil {
			fmt.Fprintln(out, head)
		}
		return err
	}
	wrong, looked, err := newApp(s).Verify(cmd.Context())
	if err != nil {
		return err
	}
	inChain, links, err := s.VerifyChain(cmd.Context(), kept)
	if err != nil && !errors.Is(err, store.ErrNoChain) {
		return err
	}
	wrong = append(wrong, inChain...)
	for _, w := range wrong {
		fmt.Fprintln(out, w)
	}
	if len(wrong) > 0 {
		return fmt.Errorf("%d things do not match in %d editions and %d links of the chain", len(wrong), looked, links)
	}
	fmt.Fprintf(out, "%d editions, each with its data and page as they were frozen\n", looked)
	if err != nil {
		return err
	}
	head, err := s.Head(cmd.Context())
	fmt.Fprintf(out, "%d links of the chain, none missing or altered; its head is %s\n", links, head)
	return err
}

func keyCommand() *cobra.Command {
	cmd := &cobra.Command{Use: "key", Short: "The publication's key, by which its editions are signed"}
	cmd.AddCommand(&cobra.Command{
		Use:   "new",
		Short: "Make the key, once; every edition frozen from then on is signed by it",
		Long: `Makes an Ed25519 key and keeps it in the file that TALLOAK_KEY names, else in talloak/publication.key in the
folder of your settings. It is never written over. Whoever has the file can sign in your name: keep a copy of
it where nobody else comes, apart from the backups of the database, which do not hold it.`,
		Args: cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			file := app.KeyFile()
			public, err := app.NewKey(file)
			if err != nil {
				return err
			}
			fmt.Fprintf(cmd.ErrOrStderr(), "The key %s is in %s. Keep a copy of that file where nobody else comes; give readers what follows.\n", publish.Fingerprint(public), file)
			return printKey(cmd, public)
		},
	}, &cobra.Command{
		Use:   "show",
		Short: "Print the public half, for readers to check editions with",
		Args:  cobra.NoArgs,
		RunE: func(cmd *cobra.Command, _ []string) error {
			file := app.KeyFile()
			key, err := app.ReadKey(file)
			if errors.Is(err, os.ErrNotExist) {
				return fmt.Errorf("there is no key in %s; `talloak key new` makes one", file)
			}
			if err != nil {
				return err
			}
			public, _ := key.Public().(ed25519.PublicKey)
			return printKey(cmd, public)
		},
	})
	return cmd
}

func printKey(cmd *cobra.Command, public ed25519.PublicKey) error {
	text, err := app.PublicPEM(public)
	if err == nil {
		_, err = cmd.OutOrStdout().Write(text)
	}
	return err
}
