package web

import "fmt"

// recipeURL is the address of a work place of a recipe (read, adapt, heat, nutrition,
// beside), with the request that travels along; "" for none.
func recipeURL(id int64, place, query string) string {
	url := fmt.Sprintf("/recipes/%d/%s", id, place)
	if query != "" {
		url += "?" + query
	}
	return url
}
