package web

import (
	"os/exec"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

// The modules that need no page are tested by node's own runner.
func TestModules(t *testing.T) {
	t.Parallel()
	node, err := exec.LookPath("node")
	require.NoError(t, err, "make test installs it")
	files, err := filepath.Glob("jstest/*.test.js")
	require.NoError(t, err)
	require.NotEmpty(t, files)
	out, err := exec.Command(node, append([]string{"--test"}, files...)...).CombinedOutput()
	require.NoError(t, err, string(out))
}
