package photo_test

import (
	"bytes"
	"encoding/binary"
	"hash/crc32"
	"image"
	"image/color"
	"image/jpeg"
	"image/png"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"kollaris/internal/photo"
)

// quarters is a picture with a colour in each quarter: red, green over blue, white.
func quarters(w, h int) image.Image {
	img := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			at := [2][2]color.RGBA{{{220, 0, 0, 255}, {0, 220, 0, 255}}, {{0, 0, 220, 255}, {255, 255, 255, 255}}}[2*y/h][2*x/w]
			img.Set(x, y, at)
		}
	}
	return img
}

// turned is a JPEG whose EXIF says how it lies, and where it was taken.
func turned(t *testing.T, img image.Image, orientation uint16) []byte {
	var plain, exif bytes.Buffer
	require.NoError(t, jpeg.Encode(&plain, img, nil))
	exif.WriteString("Exif\x00\x00MM\x00\x2a")
	put := func(vs ...any) {
		for _, v := range vs {
			require.NoError(t, binary.Write(&exif, binary.BigEndian, v))
		}
	}
	const words = "by the river, boathouse"
	put(uint32(8), uint16(2), uint16(0x010e), uint16(2), uint32(len(words)+1), uint32(8+2+24+4)) // what is on it
	put(uint16(0x0112), uint16(3), uint32(1), orientation, uint16(0), uint32(0))
	exif.WriteString(words + "\x00")
	out := []byte{0xff, 0xd8, 0xff, 0xe1}
	out = binary.BigEndian.AppendUint16(out, uint16(exif.Len()+2))
	return append(append(out, exif.Bytes()...), plain.Bytes()[2:]...)
}

// The eight orientations of Exif 2.3: the picture comes out upright. Each row says where red, green, blue and white
// lie in the file so that upright red is above left and blue below it.
func TestAPictureIsTurnedUpright(t *testing.T) {
	at := func(img image.Image, x, y int) string {
		b := img.Bounds()
		r, g, bl, _ := img.At(b.Dx()/4+x*b.Dx()/2, b.Dy()/4+y*b.Dy()/2).RGBA()
		switch {
		case r > 50000 && g > 50000 && bl > 50000:
			return "W"
		case r > g && r > bl:
			return "R"
		case g > bl:
			return "G"
		}
		return "B"
	}
	for orientation, want := range map[uint16]string{1: "RGBW", 2: "GRWB", 3: "WBGR", 4: "BWRG", 5: "RBGW", 6: "BRWG", 7: "WGBR", 8: "GWRB"} {
		p, err := photo.Take(turned(t, quarters(64, 48), orientation))
		require.NoError(t, err)
		img, err := jpeg.Decode(bytes.NewReader(p.Large))
		require.NoError(t, err)
		assert.Equal(t, want, at(img, 0, 0)+at(img, 1, 0)+at(img, 0, 1)+at(img, 1, 1), "orientation %d", orientation)
		wide := orientation < 5
		assert.Equal(t, wide, p.Width == 64 && p.Height == 48)
		assert.Equal(t, !wide, p.Width == 48 && p.Height == 64)
		assert.NotContains(t, string(p.Large)+string(p.Small), "river", "nothing else of the file is kept")
	}
}

func TestAPictureIsScaledDown(t *testing.T) {
	var large, small bytes.Buffer
	require.NoError(t, png.Encode(&large, quarters(3000, 2000)))
	p, err := photo.Take(large.Bytes())
	require.NoError(t, err)
	assert.Equal(t, [2]int{1600, 1067}, [2]int{p.Width, p.Height})
	thumb, err := jpeg.DecodeConfig(bytes.NewReader(p.Small))
	require.NoError(t, err)
	assert.Equal(t, [2]int{320, 213}, [2]int{thumb.Width, thumb.Height})
	require.NoError(t, png.Encode(&small, image.NewRGBA(image.Rect(0, 0, 40, 1)))) // all of it lets light through
	p, err = photo.Take(small.Bytes())
	require.NoError(t, err)
	assert.Equal(t, [2]int{40, 1}, [2]int{p.Width, p.Height}, "never made larger")
	img, err := jpeg.Decode(bytes.NewReader(p.Large))
	require.NoError(t, err)
	r, _, _, _ := img.At(20, 0).RGBA()
	assert.Greater(t, r, uint32(60000), "it lies on white")
}

// What is refused says what would do.
func TestWhatIsNoPicture(t *testing.T) {
	var ok, huge bytes.Buffer
	require.NoError(t, jpeg.Encode(&ok, quarters(64, 48), nil))
	require.NoError(t, png.Encode(&huge, image.NewGray(image.Rect(0, 0, 20000, 4001))))
	for want, file := range map[error][]byte{
		photo.ErrHEIC: []byte("\x00\x00\x00\x18ftypheic\x00\x00\x00\x00mif1heic"), photo.ErrKind: []byte("<svg xmlns='http://www.w3.org/2000/svg'/>"),
		photo.ErrBytes: make([]byte, photo.MostBytes+1), photo.ErrPixels: huge.Bytes(),
	} {
		_, err := photo.Take(file)
		assert.ErrorIs(t, err, want)
	}
	for _, file := range [][]byte{nil, {}, ok.Bytes()[:40], ok.Bytes()[:len(ok.Bytes())/2], []byte("GIF89a")} {
		_, err := photo.Take(file)
		assert.ErrorIs(t, err, photo.ErrKind)
	}
	_, err := photo.Take(turned(t, quarters(64, 48), 99))
	assert.NoError(t, err, "an orientation that is none is none")
}

// By hand: 200 px are 10 cm, so 150 px are 7.5; shares are of width and height each.
func TestASliceIsMeasured(t *testing.T) {
	p := photo.Photo{Width: 400, Height: 300}
	cm, err := p.Measure(photo.Point{X: 0.1, Y: 0.5}, photo.Point{X: 0.6, Y: 0.5}, 10, photo.Point{X: 0.3, Y: 0.9}, photo.Point{X: 0.3, Y: 0.4})
	require.NoError(t, err)
	assert.InDelta(t, 7.5, cm, 1e-9)
	cm, err = p.Measure(photo.Point{}, photo.Point{X: 0.3, Y: 0.3}, 15, photo.Point{X: 0.3}, photo.Point{X: 0.3, Y: 1})
	require.NoError(t, err)
	assert.InDelta(t, 30, cm, 1e-9, "120 and 90 make 150 px")
	for _, x := range []float64{0.1, 0.149} {
		_, err = p.Measure(photo.Point{X: 0.1}, photo.Point{X: x}, 10, photo.Point{}, photo.Point{X: 1})
		assert.ErrorIs(t, err, photo.ErrLine)
	}
	_, err = p.Measure(photo.Point{X: 0.1}, photo.Point{X: 0.16}, 0, photo.Point{}, photo.Point{X: 1})
	assert.ErrorIs(t, err, photo.ErrLine)
}

func FuzzTake(f *testing.F) {
	var ok bytes.Buffer
	if err := jpeg.Encode(&ok, quarters(8, 8), nil); err != nil {
		f.Fatal(err)
	}
	f.Add(ok.Bytes())
	f.Add([]byte("GIF89a\x01\x00\x01\x00"))
	f.Add([]byte("RIFF\x00\x00\x00\x00WEBPVP8 "))
	f.Fuzz(func(t *testing.T, file []byte) {
		if len(file) > 1<<16 {
			return
		}
		if c, _, err := image.DecodeConfig(bytes.NewReader(file)); err == nil && c.Width*c.Height > 1e6 {
			return // slow, and the same
		}
		p, err := photo.Take(file)
		if err == nil && (p.Width < 1 || len(p.Small) == 0) {
			t.Fatal(p)
		}
	})
}

// What would fill the memory is refused by its head, before it is read: by its pixels and how many bytes each takes.
func TestAPictureThatWouldFillTheMemory(t *testing.T) {
	head := func(w, h int, depth, colours, interlaced byte) []byte { // IHDR alone: nothing else is looked at
		chunk := []byte("IHDR")
		chunk = binary.BigEndian.AppendUint32(chunk, uint32(w))
		chunk = binary.BigEndian.AppendUint32(chunk, uint32(h))
		chunk = append(chunk, depth, colours, 0, 0, interlaced)
		out := append([]byte("\x89PNG\r\n\x1a\n"), 0, 0, 0, 13)
		out = append(out, chunk...)
		return binary.BigEndian.AppendUint32(out, crc32.ChecksumIEEE(chunk))
	}
	for _, c := range []struct {
		w, h                       int
		depth, colours, interlaced byte
		want                       error
	}{
		{8900, 8900, 16, 6, 0, photo.ErrPixels}, {8900, 8900, 8, 6, 0, photo.ErrPixels}, {5000, 5000, 16, 6, 0, photo.ErrPixels}, {5000, 5000, 8, 6, 1, photo.ErrPixels},
		{4000, 5000, 16, 6, 0, photo.ErrKind}, {6000, 6000, 8, 6, 0, photo.ErrKind}, {8900, 8900, 8, 0, 0, photo.ErrKind}, // these would be read, and hold nothing
		{9000, 9000, 8, 0, 0, photo.ErrPixels},
	} {
		_, err := photo.Take(head(c.w, c.h, c.depth, c.colours, c.interlaced))
		assert.ErrorIs(t, err, c.want, "%+v", c)
	}
}

// A large picture comes out as the mean of what lay there, in its colours.
func TestALargePictureIsScaled(t *testing.T) {
	img := image.NewRGBA(image.Rect(0, 0, 5000, 3000))
	for y := range 3000 {
		for x := range 5000 {
			v := uint8(250 * x / 5000) // from black to white
			img.SetRGBA(x, y, color.RGBA{v, v, v, 255})
		}
	}
	var b bytes.Buffer
	require.NoError(t, jpeg.Encode(&b, img, &jpeg.Options{Quality: 95}))
	p, err := photo.Take(b.Bytes())
	require.NoError(t, err)
	assert.Equal(t, 1600, p.Width)
	assert.Equal(t, 960, p.Height)
	out, err := jpeg.Decode(bytes.NewReader(p.Large))
	require.NoError(t, err)
	for _, at := range []image.Point{{10, 10}, {800, 480}, {1590, 950}} {
		r, _, _, _ := out.At(at.X, at.Y).RGBA()
		assert.InDelta(t, 250*float64(at.X)/1600, r>>8, 4, "%v", at)
	}
}
