// Package gnuunits asks the reference program GNU units (Debian package
// "units") for conversions, so that tests can hold our figures against a table
// that somebody else keeps.
package gnuunits

import (
	"os"
	"os/exec"
	"strconv"
	"strings"
	"testing"
)

// Convert returns have in terms of want, for instance "uscup flour_sifted" in
// "g". Without the program the test is skipped, in CI it fails.
func Convert(t *testing.T, have, want string) float64 {
	t.Helper()
	if _, err := exec.LookPath("units"); err != nil {
		if os.Getenv("CI") != "" {
			t.Fatal("GNU units is not installed: make test installs it")
		}
		t.Skip("GNU units is not installed")
	}
	out, err := exec.Command("units", "--terse", have, want).Output()
	if err != nil {
		t.Fatalf("units %q %q: %v: %s", have, want, err, out)
	}
	x, err := strconv.ParseFloat(strings.TrimSpace(string(out)), 64)
	if err != nil {
		t.Fatalf("units %q %q: %s", have, want, out)
	}
	return x
}
