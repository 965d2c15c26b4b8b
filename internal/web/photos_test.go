package web_test

import (
	"bytes"
	"html"
	"image"
	"image/jpeg"
	"image/png"
	"mime/multipart"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Pictures of a bake are kept in two sizes, said what is on them, taken away and back; what is none is named.
func TestPicturesOfABake(t *testing.T) {
	s := newSite(t)
	at := s.begin()
	send := func(strip string, files map[string][]byte) (int, string) {
		var body bytes.Buffer
		w := multipart.NewWriter(&body)
		require.NoError(t, w.WriteField("bake", strip))
		for name, data := range files {
			part, err := w.CreateFormFile("pictures", name)
			require.NoError(t, err)
			_, err = part.Write(data)
			require.NoError(t, err)
		}
		require.NoError(t, w.Close())
		r := httptest.NewRequest("POST", at+"/photos", &body)
		r.Header.Set("Content-Type", w.FormDataContentType())
		code, _, h := s.do(r)
		return code, h.Get("Location")
	}
	var face bytes.Buffer
	require.NoError(t, png.Encode(&face, image.NewGray(image.Rect(0, 0, 2000, 1000))))
	code, to := send("0", map[string][]byte{"face.png": face.Bytes(), "phone.heic": []byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00mif1heic"), "notes.txt": []byte("good")})
	require.Equal(t, 303, code)
	_, body := s.get(strings.TrimSuffix(to, "#photos"))
	body = html.UnescapeString(body)
	assert.Contains(t, body, "“phone.heic”: it is a HEIC picture")
	assert.Contains(t, body, "“notes.txt”: it is no picture")
	assert.Contains(t, body, `src="/photos/1.small.jpg" alt="Pear and cardamom loaf, `)
	assert.Contains(t, body, "1 of 500 MB are used")
	code, to = send("0", map[string][]byte{"face.png": face.Bytes()})
	require.Equal(t, 303, code)
	_, body = s.get(strings.TrimSuffix(to, "#photos"))
	assert.Equal(t, 1, strings.Count(body, ".small.jpg"), "sent twice it is one picture")
	for path, wide := range map[string]int{"/photos/1.jpg": 1600, "/photos/1.small.jpg": 320} {
		code, picture := s.get(path)
		require.Equal(t, 200, code)
		c, err := jpeg.DecodeConfig(strings.NewReader(picture))
		require.NoError(t, err)
		assert.Equal(t, wide, c.Width)
	}
	_, _, to = s.post("/photos/1", url.Values{"do": {"words"}, "words": {"the cut face"}})
	_, body = s.get(strings.TrimSuffix(to, "#photos"))
	assert.Contains(t, body, `alt="the cut face"`)

	// 0.5 of 1600 px are 10 cm, so 0.5 of 800 px are 5
	ends := url.Values{"do": {"measure"}, "known": {"10"}, "wax": {"0.2"}, "way": {"0.9"}, "wbx": {"0.7"}, "wby": {"0.9"}, "hax": {"0.5"}, "hay": {"0.4"}, "hbx": {"0.5"}, "hby": {"0.9"}}
	code, _, to = s.post("/photos/1", ends)
	require.Equal(t, 303, code)
	_, body = s.get(strings.TrimSuffix(to, "#height"))
	assert.Contains(t, body, `name="height" size="4" value="5"`)
	for name, typed := range map[string]string{"known": "wide", "wbx": "0.21"} {
		bad := url.Values{}
		for k, v := range ends {
			bad[k] = v
		}
		bad.Set(name, typed)
		code, body, _ := s.post("/photos/1", bad)
		assert.Equal(t, 422, code)
		assert.Contains(t, body, `id="known-fault"`)
		assert.Contains(t, body, `name="`+name+`"`)
		assert.Contains(t, body, `value="`+typed+`"`, "what was set stays")
	}
	code, body = s.get("/photos/1")
	assert.Equal(t, 200, code)
	assert.Contains(t, body, `name="hby" value="0.8"`, "the lines lie ready")

	_, _, to = s.post("/photos/1", url.Values{"do": {"drop"}})
	code, _ = s.get("/photos/1.jpg")
	assert.Equal(t, 404, code)
	_, body = s.get(strings.TrimSuffix(to, "#photos"))
	assert.Contains(t, body, "The picture is taken away.")
	s.post("/photos/1", url.Values{"do": {"restore"}})
	code, _ = s.get("/photos/1.jpg")
	assert.Equal(t, 200, code)
	code, _ = send("7", map[string][]byte{"face.png": face.Bytes()})
	assert.Equal(t, 400, code)
	for _, path := range []string{"/photos/9", "/photos/9.jpg", "/photos/x.jpg"} {
		code, _ := s.get(path)
		assert.Equal(t, 404, code, path)
	}
	s.post(at, url.Values{"what": {"drop"}})
	code, _ = s.get("/photos/1.jpg")
	assert.Equal(t, 404, code, "it goes with its bake")
}
