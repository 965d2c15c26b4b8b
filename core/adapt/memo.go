package adapt

import (
	"crypto/sha256"
	"encoding/json"

	"kollaris/core/recipe"
)

// Memo remembers results by their key. It is safe for concurrent use; an LRU of a library
// does.
type Memo interface {
	Get(key string) (*Result, bool)
	Add(key string, res *Result) (evicted bool)
}

// key is all that a result follows from: the recipe's document, the request with what is
// laid over it, the kitchen and the stamp of the larder. "" where nothing is remembered.
func (k Kit) key(written *recipe.Recipe, req Request) string {
	if k.Memo == nil || k.Stamp == "" {
		return ""
	}
	doc, err := json.Marshal([]any{written, req, req.Oven.Learned, k.Kitchen, k.Law, k.Stamp})
	if err != nil {
		return ""
	}
	sum := sha256.Sum256(doc)
	return string(sum[:])
}

// remembered is what is remembered under a key of a kind, or else made and remembered; with no key it is made.
func (k Kit) remembered(key, kind string, make func() (*Result, error)) (*Result, error) {
	if key == "" {
		return make()
	}
	if res, ok := k.Memo.Get(key + kind); ok {
		return res, nil
	}
	res, err := make()
	if err == nil {
		k.Memo.Add(key+kind, res)
	}
	return res, err
}
