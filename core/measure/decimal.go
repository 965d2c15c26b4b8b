package measure

import (
	"fmt"
	"math"
	"strconv"
	"strings"
)

// ParseDecimal reads what was typed into a field for one number, and nothing else:
// "14", "2.5", "2,5", "1,000", "-10", "1 1/2", "½". One of the units may follow, in
// any case and with or without a space ("14 g", "140mg"). A comma before exactly
// three digits groups thousands, any other is the decimal mark, as in a recipe's
// line (ScanQuantity). The result is finite; what range will do is the caller's.
// The error repeats what was typed and names a number that would do.
func ParseDecimal(typed string, units ...string) (float64, error) {
	s := strings.ToLower(strings.TrimSpace(typed))
	for _, u := range units {
		if t := strings.TrimSuffix(s, strings.ToLower(u)); t != s && u != "" {
			s = strings.TrimSpace(t)
			break
		}
	}
	sign := 1.0
	for _, minus := range []string{"-", "−", "–"} {
		if t := strings.TrimPrefix(s, minus); t != s {
			s, sign = t, -1
			break
		}
	}
	if sign > 0 {
		s = strings.TrimPrefix(s, "+")
	}
	if s != "" && strings.Trim(s, "0123456789.e+-") == "" { // also what strconv writes: 5e-05
		if x, err := strconv.ParseFloat(s, 64); err == nil && !math.IsInf(x, 0) && s[0] != '+' && s[0] != '-' {
			return sign * x, nil
		}
	}
	x, n, err := scanNumber(s)
	switch {
	case err != nil:
		return 0, err
	case n == 0 || n < len(s) || x > maxQuantity:
		return 0, fmt.Errorf("“%s” is no number: try one such as 14 or 2.5", strings.TrimSpace(typed))
	}
	return sign * x, nil
}
