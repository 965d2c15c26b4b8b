// Package photo takes in pictures as phones and cameras make them, and measures what is on them. A picture is turned
// upright, scaled down to two sizes and written anew, so that nothing else that stood in the file (where, when,
// which phone) is kept.
package photo

import (
	"bytes"
	"errors"
	"image"
	_ "image/gif" // formats that are understood
	"image/jpeg"
	_ "image/png"
	"io"
	"math"
	"time"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp"
)

// What is taken.
const (
	MostBytes  = 15 << 20 // of a file
	mostPixels = 80e6     // a phone's finest; past that the picture would fill the memory
	largeSide  = 1600     // px, the longer side as it is kept
	smallSide  = 320      // px, in a list
	quality    = 82
)

// What is refused, in words that say what would do.
var (
	ErrHEIC   = errors.New("it is a HEIC picture, as some phones take: share it as JPEG, or choose “most compatible” in the camera’s settings")
	ErrKind   = errors.New("it is no picture that can be read: JPEG, PNG, WebP or GIF would do")
	ErrBytes  = errors.New("it is larger than 15 MB: a smaller size would do")
	ErrPixels = errors.New("it has too many pixels: up to 80 million would do")
)

// Photo is a picture in two sizes, JPEG both.
type Photo struct {
	Large, Small  []byte
	Width, Height int // px, of the large one
}

// Take takes a file in. Its errors are those above.
func Take(file []byte) (Photo, error) {
	if len(file) > MostBytes {
		return Photo{}, ErrBytes
	}
	if len(file) > 12 && string(file[4:8]) == "ftyp" {
		return Photo{}, ErrHEIC
	}
	config, kind, err := image.DecodeConfig(bytes.NewReader(file))
	switch {
	case err != nil || config.Width < 1 || config.Height < 1:
		return Photo{}, ErrKind
	case float64(config.Width)*float64(config.Height) > mostPixels:
		return Photo{}, ErrPixels
	}
	img, _, err := image.Decode(bytes.NewReader(file))
	if err != nil {
		return Photo{}, ErrKind
	}
	large := upright(fit(img, largeSide), orientation(file, kind))
	p := Photo{Width: large.Bounds().Dx(), Height: large.Bounds().Dy()}
	if p.Large, err = encode(large); err != nil {
		return Photo{}, err
	}
	p.Small, err = encode(fit(large, smallSide))
	return p, err
}

func encode(img image.Image) ([]byte, error) {
	var out bytes.Buffer
	err := jpeg.Encode(&out, img, &jpeg.Options{Quality: quality})
	return out.Bytes(), err
}

// orientation is the file's EXIF tag 274, 1 where there is none. Source: published: Exif 2.3, 4.6.4.
func orientation(file []byte, kind string) int {
	format, ok := map[string]imagemeta.ImageFormat{"jpeg": imagemeta.JPEG, "png": imagemeta.PNG, "webp": imagemeta.WebP}[kind]
	if !ok {
		return 1
	}
	at := 1
	_, err := imagemeta.Decode(imagemeta.Options{
		R: bytes.NewReader(file), ImageFormat: format, Sources: imagemeta.EXIF, HandleXMP: func(r io.Reader) error { return nil },
		ShouldHandleTag: func(t imagemeta.TagInfo) bool { return t.Tag == "Orientation" },
		Timeout:         2 * time.Second,
		HandleTag: func(t imagemeta.TagInfo) error {
			if n, ok := t.Value.(uint16); ok && n >= 1 && n <= 8 {
				at = int(n)
			}
			return nil
		},
	})
	if err != nil {
		return 1 // what the camera says of itself is broken: it is shown as it lies
	}
	return at
}

// upright turns and mirrors a picture as its orientation asks: where the pixel at x, y of the upright one is read.
func upright(img image.Image, orientation int) image.Image {
	if orientation == 1 {
		return img
	}
	b := img.Bounds()
	w, h := b.Dx(), b.Dy()
	if orientation >= 5 {
		w, h = h, w
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	for y := range h {
		for x := range w {
			var from image.Point
			switch orientation {
			case 2:
				from = image.Pt(w-1-x, y)
			case 3:
				from = image.Pt(w-1-x, h-1-y)
			case 4:
				from = image.Pt(x, h-1-y)
			case 5:
				from = image.Pt(y, x)
			case 6:
				from = image.Pt(y, w-1-x)
			case 7:
				from = image.Pt(h-1-y, w-1-x)
			case 8:
				from = image.Pt(h-1-y, x)
			}
			out.Set(x, y, img.At(b.Min.X+from.X, b.Min.Y+from.Y))
		}
	}
	return out
}

// fit scales a picture down so that its longer side is no more than so many pixels; what lets light through lies on
// white.
func fit(img image.Image, side int) image.Image {
	b := img.Bounds()
	k := math.Min(1, float64(side)/float64(max(b.Dx(), b.Dy())))
	w, h := max(1, int(math.Round(k*float64(b.Dx())))), max(1, int(math.Round(k*float64(b.Dy()))))
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.CatmullRom.Scale(out, out.Bounds(), img, b, draw.Over, nil)
	return out
}

// Point is a place on a picture, as shares of its width and height.
type Point struct{ X, Y float64 }

// ErrLine says that the known line is too short to measure by.
var ErrLine = errors.New("the known line is too short: drag its ends to both sides of the slice")

// Measure is how long the line from a to b is, cm, where the one from from to to is known. Both lie in the same plane,
// seen straight on.
func (p Photo) Measure(from, to Point, known float64, a, b Point) (float64, error) {
	length := func(a, b Point) float64 {
		return math.Hypot((a.X-b.X)*float64(p.Width), (a.Y-b.Y)*float64(p.Height))
	}
	by := length(from, to)
	if by < 0.05*float64(max(p.Width, p.Height)) || known <= 0 {
		return 0, ErrLine
	}
	return known * length(a, b) / by, nil
}
