package diet_test

import (
	"fmt"

	"kollaris/core/diet"
	"kollaris/core/larder"
)

// What must not be eaten, as it is typed: a word that is not certain is never guessed.
func ExampleParseBans() {
	l := larder.Builtin()
	d, bad := diet.ParseBans("lactose, soys, wu55le", l)
	fmt.Println(d.Bans, len(bad))
	verdict, why := d.Judge(l.Get("silken-tofu"))
	fmt.Println(verdict == diet.Breaks, why.Words())
	// Output:
	// [soya] 1
	// true silken tofu holds soya
}
