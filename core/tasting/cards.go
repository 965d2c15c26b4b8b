package tasting

import (
	"errors"
	"fmt"
	"math/rand/v2"
)

// MostCards is for how many tasters cards are written at most.
const MostCards = 120 // three codes each of nine hundred

// ErrCards is said of a number of tasters that no cards are written for.
var ErrCards = errors.New("for how many tasters? Three to 120")

// Card is what one taster gets: three slices in this order, each with its code.
type Card struct {
	Codes [3]string
	Of    [3]byte // what each slice is, 'A' or 'B'
	Odd   int     // which of them is the odd one, from 0
}

// orders are the six ways to lay a triangle; each comes as often as any other.
var orders = [6][3]byte{{'A', 'A', 'B'}, {'A', 'B', 'A'}, {'B', 'A', 'A'}, {'B', 'B', 'A'}, {'B', 'A', 'B'}, {'A', 'B', 'B'}}

// Cards lays the slices of a triangle test for so many tasters: orders and codes drawn by a seed, the same again by
// the same seed. No code comes twice.
func Cards(tasters int, seed uint64) ([]Card, error) {
	if tasters < 3 || tasters > MostCards {
		return nil, ErrCards
	}
	rnd := rand.New(rand.NewPCG(seed, 0x7461737465))
	codes := rnd.Perm(900) // 100 to 999
	var out []Card
	for len(out) < tasters {
		for _, n := range rnd.Perm(len(orders)) {
			if len(out) == tasters {
				break
			}
			c := Card{Of: orders[n]}
			for k := range c.Codes {
				c.Codes[k] = fmt.Sprint(100 + codes[3*len(out)+k])
				if c.Of[k] != c.Of[(k+1)%3] && c.Of[k] != c.Of[(k+2)%3] {
					c.Odd = k
				}
			}
			out = append(out, c)
		}
	}
	return out, nil
}
