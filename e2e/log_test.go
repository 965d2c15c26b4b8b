package e2e

import (
	"context"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/demo"
)

// Two bakes of the loaf are laid side by side; its slice is measured with the keys and with a finger.
func TestTheLogThroughTime(t *testing.T) {
	v := start(t)
	require.NoError(t, demo.Season(context.Background(), v.st))
	v.open(v.id("Pear and cardamom loaf") + "/log")
	eval[bool](v, `[0, 3].every((n) => document.querySelectorAll("input[name=pick]")[n].click() === undefined)`)
	v.click(`form[action="/log/beside"] button`)
	v.wait(".bakes-beside")
	assert.Contains(t, v.text(".bakes-beside"), "clay in the middle")
	v.click(`.bakes-beside a[href^="/photos/"]`)
	v.wait("#photo")
	before := v.text("#measured")
	require.Regexp(t, `^\d+\.\d cm$`, before)
	eval[bool](v, `document.querySelector('[data-end="ha"]').focus() === undefined`)
	v.press(kb.ArrowUp + kb.ArrowUp)
	v.waitFor(`document.getElementById("measured").textContent !== "` + before + `"`)
	keys := v.text("#measured")
	eval[bool](v, `(() => {
	  const dot = document.querySelector('[data-end="hb"]');
	  const r = dot.getBoundingClientRect();
	  const at = (type, dy) => dot.dispatchEvent(new PointerEvent(type, { pointerId: 1, clientX: r.left + r.width / 2, clientY: r.top + r.height / 2 + dy, bubbles: true }));
	  dot.setPointerCapture = () => {};
	  dot.hasPointerCapture = () => true;
	  at("pointerdown", 0);
	  at("pointermove", 40);
	  return true;
	})()`)
	v.waitFor(`document.getElementById("measured").textContent !== "` + keys + `"`)
	said := strings.TrimSuffix(v.text("#measured"), " cm")
	v.click(`.photo-measure button`)
	v.wait("#height")
	assert.Equal(t, strings.TrimSuffix(said, ".0"), eval[string](v, `document.getElementById("height").value`), "the server works out the same")
}
