// Package photo takes in pictures as phones and cameras make them, and measures what is on them. A picture is turned
// upright, scaled down to two sizes and written anew, so that nothing else that stood in the file (where, when,
// which phone) is kept.
package photo

import (
	"bytes"
	"errors"
	"image"
	"image/color"
	_ "image/gif" // formats that are understood
	"image/jpeg"
	_ "image/png"
	"io"
	"math"
	"sync"
	"time"

	"github.com/bep/imagemeta"
	"golang.org/x/image/draw"
	_ "golang.org/x/image/webp"
)

// What is taken.
const (
	MostBytes  = 15 << 20  // of a file
	mostPixels = 80e6      // a phone's finest
	mostMemory = 160 << 20 // bytes that a picture may take while it is read, so that all of it stays under 250 MB
	largeSide  = 1600      // px, the longer side as it is kept
	smallSide  = 320       // px, in a list
	quality    = 82
)

// What is refused, in words that say what would do.
var (
	ErrHEIC   = errors.New("it is a HEIC picture, as some phones take: share it as JPEG, or choose “most compatible” in the camera’s settings")
	ErrKind   = errors.New("it is no picture that can be read: JPEG, PNG, WebP or GIF would do")
	ErrBytes  = errors.New("it is larger than 15 MB: a smaller size would do")
	ErrPixels = errors.New("it has too many pixels for its kind: up to 80 million of a JPEG, 40 million of a PNG, 20 of one in 16 bits would do")
)

// Photo is a picture in two sizes, JPEG both.
type Photo struct {
	Large, Small  []byte
	Width, Height int // px, of the large one
}

// one lets one picture in at a time: each may take mostMemory.
var one sync.Mutex

// Take takes a file in. Its errors are those above. It works on one picture at a time.
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
	case float64(config.Width)*float64(config.Height) > min(mostPixels, mostMemory/perPixel(file, kind, config)):
		return Photo{}, ErrPixels
	}
	one.Lock()
	defer one.Unlock()
	img, _, err := image.Decode(bytes.NewReader(file))
	if err != nil {
		return Photo{}, ErrKind
	}
	small := fit(img, largeSide)
	img = nil // it may go while the rest is done
	large := upright(small, orientation(file, kind))
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
	img = coarse(img, side)
	b := img.Bounds()
	k := math.Min(1, float64(side)/float64(max(b.Dx(), b.Dy())))
	w, h := max(1, int(math.Round(k*float64(b.Dx())))), max(1, int(math.Round(k*float64(b.Dy()))))
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	draw.Draw(out, out.Bounds(), image.White, image.Point{}, draw.Src)
	draw.ApproxBiLinear.Scale(out, out.Bounds(), img, b, draw.Over, nil) // others keep 32 bytes for each pixel of a column
	return out
}

// coarse takes a picture down by a whole number, to no less than a side, as the mean of each square of pixels: band by band, so that it takes no
// room beside what comes out.
func coarse(img image.Image, side int) image.Image {
	b := img.Bounds()
	k := max(b.Dx(), b.Dy()) / side
	if k < 2 {
		return img
	}
	w, h := b.Dx()/k, b.Dy()/k
	if w < 1 || h < 1 {
		return img
	}
	out := image.NewRGBA(image.Rect(0, 0, w, h))
	band := image.NewRGBA(image.Rect(0, 0, w*k, k))
	for y := range h {
		draw.Draw(band, band.Bounds(), image.White, image.Point{}, draw.Src)
		draw.Draw(band, band.Bounds(), img, image.Pt(b.Min.X, b.Min.Y+y*k), draw.Over)
		for x := range w {
			var sum [4]int
			for dy := range k {
				row := band.Pix[dy*band.Stride+x*k*4:]
				for dx := range k {
					for c := range sum {
						sum[c] += int(row[dx*4+c])
					}
				}
			}
			at := out.Pix[y*out.Stride+x*4:]
			for c := range sum {
				at[c] = uint8((sum[c] + k*k/2) / (k * k))
			}
		}
	}
	return out
}

// perPixel is how many bytes a pixel of a file takes while it is read, by its kind. Sources: the readers of the standard library; a
// progressive JPEG keeps its coefficients, of four bytes each; an interlaced PNG a pass beside the picture.
func perPixel(file []byte, kind string, config image.Config) float64 {
	bytes := 4.0
	switch config.ColorModel {
	case color.RGBA64Model, color.NRGBA64Model:
		bytes = 8
	case color.Gray16Model:
		bytes = 2
	case color.GrayModel, color.AlphaModel:
		bytes = 1
	case color.YCbCrModel:
		bytes = 3
	}
	switch kind {
	case "jpeg":
		planes, progressive := frame(file)
		if bytes = planes; progressive {
			bytes += 4 * planes
		}
	case "png":
		if len(file) > 28 && file[28] == 1 {
			bytes *= 2
		}
	}
	return bytes
}

// frame reads the frame header of a JPEG: how many samples a pixel has, and whether they come in passes. Source: published: ITU-T T.81,
// B.2.2. What it cannot read it takes for the largest.
func frame(file []byte) (planes float64, progressive bool) {
	for at := 2; at+9 < len(file) && file[at] == 0xff; {
		marker, size := file[at+1], int(file[at+2])<<8|int(file[at+3])
		if marker >= 0xc0 && marker <= 0xcf && marker != 0xc4 && marker != 0xc8 && marker != 0xcc {
			n, most, sum := int(file[at+9]), 1, 0
			for k := range n {
				if at+11+3*k >= len(file) {
					return 4, true
				}
				hv := int(file[at+11+3*k]>>4) * int(file[at+11+3*k]&15)
				most, sum = max(most, hv), sum+hv
			}
			return float64(sum) / float64(most), marker == 0xc2
		}
		at += 2 + size
	}
	return 4, true
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
