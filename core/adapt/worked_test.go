package adapt_test

import (
	_ "embed"
	"net/url"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/core/adapt"
	"kollaris/core/larder"
)

//go:embed testdata/worked.txt
var worked string

func TestWorkedExamples(t *testing.T) {
	for _, rec := range strings.Split(worked, "\n== ")[1:] {
		name, rest, _ := strings.Cut(rec, "\n")
		t.Run(name, func(t *testing.T) {
			var text, want []string
			var req adapt.Request
			for _, ln := range strings.Split(rest, "\n") {
				switch {
				case strings.HasPrefix(ln, "#"):
				case strings.HasPrefix(ln, "? "):
					v, err := url.ParseQuery(strings.TrimPrefix(ln, "? "))
					require.NoError(t, err)
					var faults []adapt.Fault
					req, faults = adapt.ParseRequest(v, larder.Builtin())
					require.Empty(t, faults)
				case strings.HasPrefix(ln, "=> "):
					want = append(want, strings.TrimPrefix(ln, "=> "))
				default:
					text = append(text, ln)
				}
			}
			res := run(t, read(t, strings.TrimSpace(strings.Join(text, "\n"))), req)
			require.Nil(t, res.Refused)
			said := strings.Join(res.Doubts, " ")
			for _, c := range res.Changes {
				said += " " + c.Reason
			}
			require.NotEmpty(t, want)
			for _, w := range want {
				f := strings.Fields(w)
				switch {
				case f[0] == "note":
					assert.Contains(t, said, strings.TrimPrefix(w, "note "))
				case f[1] == "0":
					assert.Zero(t, grams(res.Recipe, larder.ID(f[0])), f[0])
				default:
					g := figure(t, f[1])
					assert.InDelta(t, g, grams(res.Recipe, larder.ID(f[0])), g*figure(t, strings.TrimPrefix(f[2], "±"))/100+0.3, f[0])
				}
			}
		})
	}
}

func figure(t *testing.T, s string) float64 {
	t.Helper()
	x, err := strconv.ParseFloat(s, 64)
	require.NoError(t, err)
	return x
}
