package web

import (
	"fmt"
	"net/url"
	"strings"

	"kollaris/core/phrase"
)

// field is a box to type in: what stands in it and what is wrong with that. Every form
// shows its boxes by the partials "box" and "fault".
type field struct {
	ID, Name           string // of the box, and of what it sends: its ID where empty
	Words, Unit        string // before it and after it
	Value, Hint, Fault string
	Mode               string // of the keyboard: "decimal", "numeric"
	List               string // id of what it offers
	Size               int
	On                 bool // asked for, here or elsewhere
}

// Sends is the name under which the box is sent.
func (f field) Sends() string {
	if f.Name == "" {
		return f.ID
	}
	return f.Name
}

// fields are a form's boxes by name.
type fields map[string]field

// formFields are the boxes of a form; their ids begin with its own, "" for none.
func formFields(form string, of ...field) fields {
	out := fields{}
	for _, f := range of {
		if f.ID = f.Name; form != "" {
			f.ID = form + "-" + f.Name
		}
		out[f.Name] = f
	}
	return out
}

// typed lays over the boxes what was typed, and what is wrong with it by name.
func (fs fields) typed(form url.Values, faults map[string]string) fields {
	for name, f := range fs {
		f.Value = strings.TrimSpace(form.Get(name))
		if why := faults[name]; why != "" {
			f.Fault = phrase.Sentence(why)
		}
		fs[name] = f
	}
	return fs
}

// set puts a value into a box.
func (fs fields) set(name, value string) {
	f := fs[name]
	f.Value = value
	fs[name] = f
}

// number writes a figure for a box, nothing for 0.
func number(x float64) string {
	if x == 0 {
		return ""
	}
	return fmt.Sprintf("%g", x)
}
