// Package recipes holds the recipes that ship with Dynacor, and reads and
// writes recipe files.
//
// A file is YAML or JSON with the fields of recipe.Recipe in lower case. What
// is wrong with one is said with its line and the rule, and nothing of it is
// taken.
package recipes

import (
	"bytes"
	"cmp"
	"embed"
	"errors"
	"fmt"
	"path"
	"slices"
	"strings"
	"sync"

	"github.com/goccy/go-yaml"
	"github.com/goccy/go-yaml/ast"
	"github.com/goccy/go-yaml/parser"

	"dynacor/core/kind"
	"dynacor/core/recipe"
	"dynacor/core/refusal"
)

//go:embed book/*.yaml
var book embed.FS

// Book returns the shipped recipes, in the order of the craft's kinds. They are
// read once.
func Book() ([]recipe.Recipe, error) { return shipped() }

// Shipped writes a recipe of the book as an edition is stored; each once.
func Shipped(r recipe.Recipe) ([]byte, error) {
	key := fmt.Sprint(r.ID, " ", r.Edition)
	if body, there := written.Load(key); there {
		return body.([]byte), nil
	}
	body, err := Write(r)
	if err == nil {
		written.Store(key, body)
	}
	return body, err
}

var written sync.Map

var shipped = sync.OnceValues(func() ([]recipe.Recipe, error) {
	files, err := book.ReadDir("book")
	if err != nil {
		return nil, err
	}
	var out []recipe.Recipe
	for _, f := range files {
		b, err := book.ReadFile(path.Join("book", f.Name()))
		if err != nil {
			return nil, err
		}
		r, err := Read(b)
		if err != nil {
			return nil, fmt.Errorf("%s: %w", f.Name(), err)
		}
		out = append(out, r)
	}
	place := map[string]int{}
	for i, k := range kind.All() {
		place[k.Name] = i
	}
	slices.SortStableFunc(out, func(a, b recipe.Recipe) int { return cmp.Compare(place[a.Kind], place[b.Kind]) })
	return out, nil
})

// Largest is the largest file that is read, bytes; the contract says the same, and a body
// of the server has room for one.
const Largest = 256 << 10

// Read reads one recipe from YAML or JSON and checks it. The error names the
// line and the rule.
func Read(file []byte) (recipe.Recipe, error) {
	r, err := decode(file)
	if err != nil {
		return recipe.Recipe{}, err
	}
	err = r.Check()
	if err == nil {
		return r, nil
	}
	var no *refusal.Error
	if !errors.As(err, &no) {
		return recipe.Recipe{}, err
	}
	at := *no
	if line := lineOf(parsed(file), no.Field); line > 0 {
		at.Text = fmt.Sprintf("Line %d: %s", line, no.Text)
	}
	return recipe.Recipe{}, &at
}

// Fault is one thing that is wrong with a file.
type Fault struct {
	refusal.Error
	Line int // from 1; 0 where it is not known
}

// Draft reads a file that is being edited, with everything that is wrong with it. ok is
// false where it cannot be read at all; its one fault says why.
func Draft(file []byte) (r recipe.Recipe, faults []Fault, ok bool) {
	r, err := decode(file)
	var no *refusal.Error
	if errors.As(err, &no) {
		return recipe.Recipe{}, []Fault{{Error: *no}}, false
	}
	var tree *ast.File
	for _, err := range r.Faults() {
		if !errors.As(err, &no) {
			no = refusal.New(refusal.Contradicts, "", err.Error(), "")
		}
		if tree == nil {
			tree = parsed(file)
		}
		faults = append(faults, Fault{*no, lineOf(tree, no.Field)})
	}
	return r, faults, true
}

// decode reads a file without holding the recipe to its rules. Its errors are refusals.
func decode(file []byte) (recipe.Recipe, error) {
	if len(file) > Largest {
		return recipe.Recipe{}, refusal.Number(refusal.TooLarge, "file", float64(len(file)), Largest, "bytes",
			fmt.Sprintf("The file has %d bytes; at most %d are read.", len(file), Largest), "Is it a recipe?")
	}
	if err := simple(file); err != nil {
		return recipe.Recipe{}, err
	}
	var r recipe.Recipe
	tree, err := parser.ParseBytes(file, 0)
	if err == nil && len(tree.Docs) > 0 && tree.Docs[0].Body != nil {
		spellOut(tree.Docs[0].Body)
		err = yaml.NodeToValue(tree.Docs[0].Body, &r, yaml.DisallowUnknownField())
	}
	if err != nil {
		return recipe.Recipe{}, refusal.New(refusal.Contradicts, "file", "The file cannot be read as a recipe: "+plain(err),
			"Mend that line.")
	}
	return r, nil
}

// Write writes a recipe as YAML that Read takes.
func Write(r recipe.Recipe) ([]byte, error) { return yaml.MarshalWithOptions(r, yaml.OmitEmpty()) }

// Kept writes a recipe as it is stored, and refuses one that would not come back as it
// went in: once stored it could not be led by, and the Library not be shown.
func Kept(r recipe.Recipe) ([]byte, error) {
	body, err := Write(r)
	if err != nil {
		return nil, err
	}
	back, err := Read(body)
	if err != nil {
		return nil, refusal.New(refusal.Contradicts, "file", "Written anew it cannot be read: "+err.Error(),
			"Look for signs that YAML reads.")
	}
	again, err := Write(back)
	if err != nil {
		return nil, err
	}
	if !bytes.Equal(body, again) {
		return nil, refusal.New(refusal.Contradicts, "file", fmt.Sprintf("Written anew it is another from line %d on.", differ(body,
			again)),
			"Look for signs that YAML reads.")
	}
	return body, nil
}

// differ is the first line, from 1, in which two files differ.
func differ(a, b []byte) int {
	n := 1
	for i := 0; i < len(a) && i < len(b) && a[i] == b[i]; i++ {
		if a[i] == '\n' {
			n++
		}
	}
	return n
}

// JSON writes a recipe as JSON that Read takes.
func JSON(r recipe.Recipe) ([]byte, error) {
	b, err := Write(r)
	if err != nil {
		return nil, err
	}
	return yaml.YAMLToJSON(b)
}

// plain is the decoder's message on one line: "[4:9] unknown field …".
func plain(err error) string {
	first, _, _ := strings.Cut(yaml.FormatError(err, false, false), "\n")
	return first
}

// parsed is a file as a tree; nil where it is none.
func parsed(file []byte) *ast.File {
	tree, err := parser.ParseBytes(file, 0)
	if err != nil {
		return nil
	}
	return tree
}

// lineOf returns the line of a refusal's field, "steps.3.limit.low", or of the
// nearest thing above it that the file has; 0 for none.
func lineOf(tree *ast.File, field string) int {
	if tree == nil {
		return 0
	}
	parts := strings.Split(field, ".")
	for ; len(parts) > 0; parts = parts[:len(parts)-1] {
		var at strings.Builder
		at.WriteString("$")
		for _, p := range parts {
			if strings.Trim(p, "0123456789") == "" && p != "" {
				at.WriteString("[" + p + "]")
			} else {
				at.WriteString("." + p)
			}
		}
		p, err := yaml.PathString(at.String())
		if err != nil {
			continue
		}
		if node, err := p.FilterFile(tree); err == nil && node != nil {
			return node.GetToken().Position.Line
		}
	}
	return 0
}
