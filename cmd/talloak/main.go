// Command talloak is the whole of Tall Oak in one binary: the server, the demo,
// and the calculations on the command line.
package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"

	"github.com/spf13/cobra"

	"talloak/core/compute"
	"talloak/core/problem"
	"talloak/publish"
	"talloak/rulebooks"
)

func main() {
	root := &cobra.Command{
		Use:           "talloak",
		Short:         "The bench book for measuring radios and standing by the result",
		SilenceUsage:  true,
		SilenceErrors: true,
	}
	engine := compute.New(rulebooks.Find, rulebooks.IDs())
	root.AddCommand(serveCommand(engine), demoCommand(), backupCommand(), restoreCommand(), verifyCommand(), keyCommand(), computeCommand(engine), openapiCommand(engine), schemaCommand(), editionSchemaCommand(), driverSchemaCommand(), instrumentsCommand(), versionCommand())
	if err := root.Execute(); err != nil {
		os.Exit(report(err))
	}
}

// report prints err and is the exit code: a refused input is a problem object
// and 2, what a check came to is a code of its own, anything else a sentence and 1.
func report(err error) int {
	var found checkedTo
	if errors.As(err, &found) {
		return int(found)
	}
	var refused *problem.Error
	if !errors.As(err, &refused) {
		fmt.Fprintln(os.Stderr, "talloak:", err)
		return 1
	}
	enc := json.NewEncoder(os.Stderr)
	enc.SetEscapeHTML(false)
	_ = enc.Encode(problem.Refused(refused))
	return 2
}

func computeCommand(engine *compute.Engine) *cobra.Command {
	list := false
	cmd := &cobra.Command{
		Use:   "compute NAME < in.json",
		Short: "Do one calculation: JSON on standard input, JSON on standard output",
		Args:  cobra.MaximumNArgs(1),
		RunE: func(cmd *cobra.Command, args []string) error {
			if list {
				for _, name := range engine.Names() {
					fmt.Fprintln(cmd.OutOrStdout(), name)
				}
				return nil
			}
			if len(args) == 0 {
				return problem.New("name", "give the name of a calculation; --list prints them")
			}
			data, err := io.ReadAll(cmd.InOrStdin())
			if err != nil {
				return err
			}
			out, err := engine.Run(args[0], data)
			if err != nil {
				return err
			}
			_, err = cmd.OutOrStdout().Write(append(out, '\n'))
			return err
		},
	}
	cmd.Flags().BoolVar(&list, "list", false, "print the names of the calculations")
	return cmd
}

func versionCommand() *cobra.Command {
	return &cobra.Command{
		Use:   "version",
		Short: "Print the version",
		RunE: func(cmd *cobra.Command, _ []string) error {
			_, err := fmt.Fprintln(cmd.OutOrStdout(), publish.Release)
			return err
		},
	}
}
