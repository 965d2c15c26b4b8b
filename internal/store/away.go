package store

import "context"

// Away is something that was put away and can be brought back.
type Away struct {
	Kind string // "recipe", "version", "draft", "person", "oven", "tin", "ingredient", "plan", "bake", "photo", "tasting"
	ID   string
	Name string
	At   string // when, RFC 3339
}

// putAway selects all that may be, with when it was.
const putAway = `
		SELECT 'recipe' kind, CAST(id AS TEXT) id, title name, deleted_at at FROM recipe WHERE deleted_at IS NOT NULL
		UNION ALL SELECT 'version', CAST(m.version AS TEXT), coalesce(nullif(m.name, ''), v.title), m.deleted_at FROM version_mark m JOIN version v ON v.id = m.version
		UNION ALL SELECT 'draft', CAST(id AS TEXT), substr(text, 1, 60), deleted_at FROM draft WHERE kept IS NULL
		UNION ALL SELECT 'person', CAST(id AS TEXT), name, deleted_at FROM person
		UNION ALL SELECT kind, CAST(id AS TEXT), name, deleted_at FROM equipment
		UNION ALL SELECT 'ingredient', id, coalesce(nullif(json_extract(doc, '$.name'), ''), id), deleted_at FROM own_ingredient
		UNION ALL SELECT 'plan', CAST(id AS TEXT), name, deleted_at FROM plan
		UNION ALL SELECT 'bake', CAST(id AS TEXT), name, deleted_at FROM bake
		UNION ALL SELECT 'photo', CAST(p.id AS TEXT), coalesce(nullif(p.words, ''), b.name), p.deleted_at FROM photo p JOIN bake b ON b.id = p.bake WHERE b.deleted_at IS NULL
		UNION ALL SELECT 'phrase', phrase, phrase, deleted_at FROM phrase
		UNION ALL SELECT 'measure', measure, measure, deleted_at FROM remembered_amount
		UNION ALL SELECT 'tasting', CAST(id AS TEXT), name, deleted_at FROM tasting`

// NameOf is what a recipe, version, person, plan or bake is called, whether it is there or was put away; ErrNotFound for none.
func (s *Store) NameOf(ctx context.Context, kind string, id int64) (name string, err error) {
	column := "name"
	if kind == "recipe" || kind == "version" {
		column = "title"
	}
	err = missing(s.db.QueryRowContext(ctx, "SELECT "+column+" FROM "+kind+" WHERE id = ?", id).Scan(&name))
	return name, err
}

// PutAwayThings lists what was put away, the last first, from one place on and at most so many. Nothing of it is ever dropped but pictures, after 30 days, when
// there is room to be made.
func (s *Store) PutAwayThings(ctx context.Context, from, most int) ([]Away, error) {
	var out []Away
	err := s.each(ctx, "SELECT kind, id, name, at FROM ("+putAway+") WHERE at IS NOT NULL ORDER BY at DESC, kind, id LIMIT ? OFFSET ?", func(scan func(...any) error) error {
		var a Away
		err := scan(&a.Kind, &a.ID, &a.Name, &a.At)
		out = append(out, a)
		return err
	}, most, from)
	return out, err
}

// CountPutAway counts all of them.
func (s *Store) CountPutAway(ctx context.Context) (n int, err error) {
	err = s.db.QueryRowContext(ctx, "SELECT count(*) FROM ("+putAway+") WHERE at IS NOT NULL").Scan(&n)
	return n, err
}
