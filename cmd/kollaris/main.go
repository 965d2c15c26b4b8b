// Command kollaris adapts recipes: as a local web application (serve, demo) and
// from the command line (read, adapt).
package main

import (
	"context"
	"errors"
	"fmt"
	"os"

	"github.com/spf13/cobra"
)

// version is set by the build; "dev" otherwise.
var version = "dev"

// helpers are commands for trying the program, which a build for release leaves out.
var helpers []func() *cobra.Command

// Exit codes. They are part of the product: docs/cli.md.
const (
	exitFault   = 1 // something broke
	exitInput   = 2 // what was given cannot be used
	exitRefused = 3 // understood, and refused
	exitStopped = 4 // adapted, and something in it is not for this table as it stands
)

// exitError carries an exit code; an empty text means that all was said already.
type exitError struct {
	code int
	text string
}

func (e exitError) Error() string { return e.text }

func unusable(format string, args ...any) error {
	return exitError{exitInput, fmt.Sprintf(format, args...)}
}

func main() {
	root := &cobra.Command{
		Use:           "kollaris",
		Short:         "Adapts baking recipes to the people who will eat them, and says why",
		SilenceUsage:  true,
		SilenceErrors: true,
		Args:          cobra.NoArgs,
		RunE:          openWindow, // started without a word
	}
	cobra.MousetrapHelpText = "" // a double click on Windows opens the shelf, and is no mistake
	root.CompletionOptions.HiddenDefaultCmd = true
	root.SetFlagErrorFunc(func(_ *cobra.Command, err error) error { return unusable("%v", err) })
	root.AddCommand(serveCommand(), readCommand(), adaptCommand(), planCommand(), shopCommand(), larderCommand(), whyCommand(), triangleCommand(), logCommand(), everythingCommand(), backupCommand(), restoreCommand(), passphraseCommand(), versionCommand())
	for _, add := range helpers {
		root.AddCommand(add())
	}
	err := root.ExecuteContext(context.Background())
	if err == nil {
		return
	}
	code := exitFault
	var ee exitError
	if errors.As(err, &ee) {
		code = ee.code
	}
	if err.Error() != "" {
		fmt.Fprintln(os.Stderr, "kollaris:", err)
	}
	os.Exit(code)
}
