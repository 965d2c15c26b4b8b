package main

import (
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"runtime/debug"

	"github.com/spf13/cobra"
)

// openWindow is what a double click does: the shelf in the browser, of the program that runs already where one does.
func openWindow(c *cobra.Command, _ []string) error {
	db, err := dbFile("")
	if err != nil {
		return err
	}
	for {
		err := run(c.Context(), "127.0.0.1:8080", db, running{copies: true, window: true})
		if err == nil {
			return nil
		}
		fmt.Fprintln(c.ErrOrStderr(), "kollaris:", err) // where a terminal is there to read it
		again, told := repair(c.Context(), db, err)
		switch {
		case told != nil:
			return told
		case !again:
			return exitError{code: exitFault}
		}
	}
}

// openBrowser opens an address in the browser that the user chose: $BROWSER, or the system's.
func openBrowser(url string) error {
	name, args := "xdg-open", []string{url}
	switch runtime.GOOS {
	case "windows":
		name, args = "rundll32", []string{"url.dll,FileProtocolHandler", url}
	case "darwin":
		name = "open"
	}
	if b := os.Getenv("BROWSER"); b != "" {
		name, args = b, []string{url}
	}
	return begin(name, args...)
}

// openFolder opens the folder of a file in the system's own window of files, the file picked out where the system does that.
func openFolder(file string) error {
	switch runtime.GOOS {
	case "windows":
		return begin("explorer", "/select,"+file)
	case "darwin":
		return begin("open", "-R", file)
	}
	return begin("xdg-open", filepath.Dir(file))
}

func begin(name string, args ...string) error {
	cmd := exec.Command(name, args...)
	if err := cmd.Start(); err != nil {
		return err
	}
	go cmd.Wait() //nolint:errcheck // it may stay open as long as it likes
	return nil
}

func versionCommand() *cobra.Command {
	return &cobra.Command{Use: "version", Short: "Print the version and what it is built from", Args: cobra.NoArgs,
		Run: func(c *cobra.Command, _ []string) {
			from := map[string]string{}
			if b, ok := debug.ReadBuildInfo(); ok {
				for _, s := range b.Settings {
					from[s.Key] = s.Value
				}
			}
			fmt.Fprintf(c.OutOrStdout(), "kollaris %s, %s, %s/%s\n", version, runtime.Version(), runtime.GOOS, runtime.GOARCH)
			if rev := from["vcs.revision"]; rev != "" {
				changed := ""
				if from["vcs.modified"] == "true" {
					changed = ", changed since"
				}
				fmt.Fprintf(c.OutOrStdout(), "built from %s of %s%s\n", rev, from["vcs.time"], changed)
			}
		}}
}
