package adapt_test

import (
	"fmt"
	"net/url"

	"kollaris/core/adapt"
	"kollaris/core/diet"
	"kollaris/core/larder"
	"kollaris/core/reader"
)

// The one function that pages and commands call.
func ExampleAdapt() {
	rd, _ := reader.Read("Pear squares\nServes 9\n200 g plain flour\n100 g sugar\n80 g butter\n2 eggs\n120 ml milk\n2 tsp baking powder", reader.Options{})
	res, _ := adapt.Adapt(rd.Recipe, adapt.Request{Diets: []diet.ID{diet.EggFree}}, adapt.DefaultKit())
	fmt.Println(res.Verdict.Words)
	for _, ln := range res.Recipe.Lines {
		fmt.Println(ln.Text)
	}
	// Output:
	// Nothing here breaks your demand.
	// 200 g plain flour
	// 100 g sugar
	// 80 g butter
	// 14 g ground flaxseed (2 tbsp + ½ tsp)
	// 90 g water (¼ cup + 2 tbsp)
	// 120 ml milk
	// 2½ tsp baking powder (12 g)
}

// A request is an address: what is typed and what is linked read as the same.
func ExampleParseRequest() {
	v, _ := url.ParseQuery("diet=egg-free&ban=soys&hold.water=12,5 g&servings=many")
	req, faults := adapt.ParseRequest(v, larder.Builtin())
	fmt.Println(req.Values().Encode())
	fmt.Println(faults[0].Field, faults[0].Why)
	// Output:
	// ban=soya&diet=egg-free&hold=water%3A12.5
	// servings “many” cannot be the number of servings: try a whole number from 1 to 200
}
