package measure

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"kollaris/core/pattern"
)

// FromFahrenheit converts °F to °C.
func FromFahrenheit(f float64) Celsius { return Celsius((f - 32) / 1.8) }

// Fahrenheit converts to °F.
func (c Celsius) Fahrenheit() float64 { return float64(c)*1.8 + 32 }

// GasMark returns the oven temperature of a gas mark: 275 °F at mark 1, 25 °F a
// mark above it, and half a mark is 250, a quarter 225 °F. Source: published,
// GNU units (definitions.units, gasmark).
func GasMark(mark float64) Celsius {
	if mark >= 1 {
		return FromFahrenheit(275 + 25*(mark-1))
	}
	return FromFahrenheit(275 + 25*math.Log2(mark))
}

// fanOffset is how much lower a fan oven is set for the same bake. Source: practice.
const fanOffset Celsius = 20

// OvenText writes an oven temperature as a dial shows it, to 5 degrees.
func (k Kitchen) OvenText(c Celsius) string {
	if k.Fahrenheit {
		return strconv.Itoa(int(math.Round(c.Fahrenheit()/5)*5)) + " °F"
	}
	return strconv.Itoa(int(math.Round(float64(c)/5)*5)) + " °C"
}

// Degrees is the scale's sign.
func (k Kitchen) Degrees() string {
	if k.Fahrenheit {
		return "°F"
	}
	return "°C"
}

// Temperature writes a temperature to the degree.
func (k Kitchen) Temperature(c Celsius) string {
	if k.Fahrenheit {
		return strconv.Itoa(int(math.Round(c.Fahrenheit()))) + " °F"
	}
	return strconv.Itoa(int(math.Round(float64(c)))) + " °C"
}

// written are the temperatures of a sentence: “180 °C”, “96 to 99 °C”.
var written = pattern.Must(`(-?\d+(?:\.\d+)?)(?:( to |–)(-?\d+(?:\.\d+)?))? °C`)

// Say turns the temperatures of a sentence into the kitchen's scale. Differences do not
// belong into such a sentence: Warmer writes them.
func (k Kitchen) Say(sentence string) string {
	if !k.Fahrenheit {
		return sentence
	}
	one := func(s string) string {
		x, _ := strconv.ParseFloat(s, 64)
		return strconv.Itoa(int(math.Round(Celsius(x).Fahrenheit())))
	}
	return written.ReplaceAllStringFunc(sentence, func(s string) string {
		m := written.FindStringSubmatch(s)
		if m[3] != "" {
			return one(m[1]) + m[2] + one(m[3]) + " °F"
		}
		return one(m[1]) + " °F"
	})
}

// Warmer writes a difference of temperatures.
func (k Kitchen) Warmer(by Celsius) string {
	x := float64(by)
	if k.Fahrenheit {
		x *= 1.8
	}
	return strconv.Itoa(int(math.Round(x))) + " " + k.Degrees()
}

// ParseTemperature reads “22”, “22 °C” or “72 F”; without a scale it is in °F where
// fahrenheit says so, else in °C.
func ParseTemperature(s string, fahrenheit bool) (Celsius, bool) {
	text := strings.ToUpper(strings.TrimSpace(s))
	number := strings.TrimRight(text, "CF° ")
	switch scale := strings.TrimLeft(text[len(number):], " °"); scale {
	case "C":
		fahrenheit = false
	case "F":
		fahrenheit = true
	case "":
	default:
		return 0, false
	}
	x, err := ParseDecimal(number)
	if err != nil {
		return 0, false
	}
	if fahrenheit {
		return FromFahrenheit(x), true
	}
	return Celsius(x), true
}

// fanWords are what an oven that blows is called.
const fanWords = `(?:fan|convection|hot air|circulating air|forced air|ventilated|umluft|heissluft|heißluft)`

// fanForms is how many of temperatureForms are of such an oven.
const fanForms = 3

var temperatureForms = []struct {
	re   *pattern.Pattern
	read func(x float64) Celsius
}{
	{
		pattern.Must(`(?i)\b(\d{3})\s*(?:°|º|˚|deg(?:rees)?\.?)?\s*f(?:ahrenheit)?[ ,]{0,2}` + fanWords + `\b`),
		func(x float64) Celsius { return FromFahrenheit(x) + fanOffset },
	},
	{
		pattern.Must(`(?i)\b(\d{2,3})\s*(?:°|º|˚|deg(?:rees)?\.?)?\s*(?:c(?:elsius|entigrade)?)?[ ,]{0,2}` + fanWords + `\b`),
		func(x float64) Celsius { return Celsius(x) + fanOffset },
	},
	{
		pattern.Must(`(?i)\b` + fanWords + `\s*(?:oven)?\s*(?:at|to)?\s*:?\s*(\d{2,3})\s*(?:°|º|˚|deg(?:rees)?\.?)?\s*c?\b`),
		func(x float64) Celsius { return Celsius(x) + fanOffset },
	},
	{
		pattern.Must(`(?i)\b(\d{2,3})\s*(?:°|º|˚|deg(?:rees)?\.?)?\s*c(?:elsius|entigrade)?\b`),
		func(x float64) Celsius { return Celsius(x) },
	},
	{pattern.Must(`(?i)\b(\d{3})\s*(?:°|º|˚|deg(?:rees)?\.?)?\s*f(?:ahrenheit)?\b`), FromFahrenheit},
	{pattern.Must(`(?i)\bgas\s*(?:mark)?\s*(\d{1,2})\b`), GasMark},
	{pattern.Must(`(?i)\b(\d{3})\s*(?:°|º|˚|deg(?:rees)?\b)`), unnamed},
	{pattern.Must(`(?i)\b(?:oven(?: to| at|:)?|bake(?: at)?|preheat to)\s+(\d{3})\b`), unnamed},
	{
		pattern.Must(`(?i)(?:^\s*|[.;]\s*)(\d{3}) for (?:about |around )?\d{1,3}(?:\s?[-–]\s?\d{1,3})? ?min`),
		unnamed,
	},
}

// unnamed reads a temperature without a scale: no home oven is set to 280 °C, and
// few recipes to less than 280 °F. Source: practice.
func unnamed(x float64) Celsius {
	if x > 280 {
		return FromFahrenheit(x)
	}
	return Celsius(x)
}

// FindOven finds the first oven temperature written in s (°C, °F, gas mark,
// fan), with the bytes it stands at. A fan temperature is returned as the 20 °C
// higher setting of a still oven, unless the still one is written too. Only
// 110 to 290 °C counts as an oven's.
func FindOven(s string) (c Celsius, from, to int, ok bool) {
	c, from, to, ok = ovenFigure(s)
	if m := gasWord.FindStringSubmatchIndex(s); m != nil && (!ok || m[0] < from) {
		return GasMark(float64(1 + slices.Index(marks, strings.ToLower(s[m[2]:m[3]])))), m[0], m[1], true
	}
	if ok {
		return c, from, to, true
	}
	if m := ovenWord.FindStringSubmatchIndex(s); m != nil {
		return ovenWords[strings.ToLower(s[m[2]:m[3]])], m[0], m[1], true
	}
	return 0, 0, 0, false
}

// ovenFigure is what FindOven finds of figures.
func ovenFigure(s string) (c Celsius, from, to int, ok bool) {
	fan := false
	for i, form := range temperatureForms {
		for _, m := range form.re.FindAllStringSubmatchIndex(s, -1) {
			x, err := strconv.ParseFloat(s[m[2]:m[3]], 64)
			if err != nil {
				continue
			}
			t := form.read(x)
			if t < 110 || t > 290 {
				continue
			}
			if i < 2 && figureNext.MatchString(s[m[1]:]) {
				continue // "210C fan 190C": the fan's is the other
			}
			if i < fanForms && !fan { // keep the fan's figure, prefer a still one
				c, from, to, ok, fan = t, m[0], m[1], true, true
				continue
			}
			if fan && overlaps(from, to, m[0], m[1]) {
				continue
			}
			return t, m[0], m[1], true
		}
	}
	return c, from, to, ok
}

var (
	figureNext = pattern.Must(`(?i)^\s*(?:oven)?\s*(?:at|to)?\s*:?\s*\d{3}`)
	marks      = []string{"one", "two", "three", "four", "five", "six", "seven", "eight", "nine"}
	gasWord    = pattern.Must(`(?i)\bgas\s*(?:mark)?\s*(one|two|three|four|five|six|seven|eight|nine)\b`)
	ovenWord   = pattern.Must(`(?i)\ban? (very cool|very slow|cool|slow|very moderate|moderate|moderately hot|fairly hot|hot|very hot) oven\b`)
	// ovenWords are the heats by which ovens were called before they had figures. Source: practice, the tables beside gas marks.
	ovenWords = map[string]Celsius{
		"very cool": 110, "very slow": 120, "cool": 140, "slow": 150, "very moderate": 160, "moderate": 180, "moderately hot": 190, "fairly hot": 200,
		"hot": 220, "very hot": 230,
	}
)

func overlaps(a, b, c, d int) bool { return a < d && c < b }

// heats are temperatures as writers put them: "190C", "350 °F", "180°C/350°F", "93 to 96 °C".
var heats = pattern.Must(`\b(\d{2,3})(?:( ?(?:to|–|-) ?)(\d{2,3}))? ?(?:° ?|degrees )?(C|F|Celsius|Fahrenheit)\b(?:( ?[/(] ?)(\d{2,3}) ?(?:° ?|degrees )?(C|F|Celsius|Fahrenheit)\b\)?)?`)

// InScale brings the temperatures of a writer's sentence to the kitchen's scale, an oven's to
// 5 degrees; of two beside each other the kitchen's stays. What stands in its scale already
// is left as it is written.
func (k Kitchen) InScale(sentence string, oven bool) string {
	mine := k.Degrees()[len("°"):]
	return heats.ReplaceAllStringFunc(sentence, func(s string) string {
		m := heats.FindStringSubmatch(s)
		if m[4][:1] == mine {
			return s
		}
		if m[7] != "" && m[7][:1] == mine {
			return m[6] + " " + k.Degrees()
		}
		one := func(number string) string {
			c, _ := ParseTemperature(number+" "+m[4][:1], false)
			if oven {
				return k.OvenText(c)
			}
			return k.Temperature(c)
		}
		if m[3] == "" {
			return one(m[1])
		}
		return strings.TrimSuffix(one(m[1]), " "+k.Degrees()) + m[2] + one(m[3])
	})
}
