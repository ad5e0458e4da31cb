package words

import (
	"bufio"
	"fmt"
	"go/ast"
	"go/parser"
	"go/token"
	"io/fs"
	"maps"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"
	"unicode"

	"github.com/stretchr/testify/require"
)

// What people read is written in these.
var told = []string{"core", "internal/app", "internal/judge", "internal/views", "internal/report", "internal/server", "internal/recipes",
	"internal/form", "internal/sheets", "internal/trying", "internal/words"}

var (
	wholeNumber = regexp.MustCompile(`^[1-9]\d{0,4}(\.\d{1,3})?$`)
	comma       = strings.NewReplacer(".", ",")
	verb        = regexp.MustCompile(`%[-+#0]*(\*|\d+)?(\.(\*|\d+))?(\[\d+\])?[a-zA-Z%]`)
	words       = regexp.MustCompile(`\p{L}{2,}`)
	formula     = regexp.MustCompile(`\{[^#\d}]`)
)

// Every sentence of the sources is in every catalogue, with its holes, or in kept.txt, which
// lists what is for machines.
func TestEverySentenceHasItsWords(t *testing.T) {
	kept := lines(t, "kept.txt")
	said := sentences(t)
	for _, language := range slices.Sorted(maps.Keys(read)) {
		craft := For(language).craft
		var missing []string
		for _, s := range said {
			if craft[s] == "" && !kept[strconv.Quote(s)] {
				missing = append(missing, strconv.Quote(s))
			}
		}
		require.Empty(t, missing, "%s: say these in internal/words/craft/%s.json, or list them in internal/words/testdata/kept.txt", language,
			language)
		for key, says := range craft {
			require.ElementsMatch(t, hole.FindAllString(key, -1), hole.FindAllString(says, -1), "%s: %s", language, key)
			require.Equal(t, ends(key), ends(says), "%s: %q", language, key)
		}
	}
	all := map[string]bool{}
	for _, s := range said {
		all[strconv.Quote(s)] = true
	}
	for k := range kept {
		require.True(t, all[k], "%s is kept as it is, and no source says it any more", k)
	}
}

// The catalogues have the same sentences.
func TestTheCataloguesAreAlike(t *testing.T) {
	german := slices.Sorted(maps.Keys(For("de").craft))
	for _, language := range []string{"es", "pl"} {
		require.Equal(t, german, slices.Sorted(maps.Keys(For(language).craft)), language)
	}
}

func ends(s string) [2]string {
	return [2]string{s[:len(s)-len(strings.TrimLeft(s, " \n"))], s[len(strings.TrimRight(s, " \n")):]}
}

func lines(t *testing.T, name string) map[string]bool {
	f, err := os.Open(filepath.Join("testdata", name))
	require.NoError(t, err)
	defer f.Close()
	out := map[string]bool{}
	for s := bufio.NewScanner(f); s.Scan(); {
		if l := s.Text(); l != "" && !strings.HasPrefix(l, "#") {
			out[l] = true
		}
	}
	return out
}

// sentences reads what the sources say: their literals that are prose, with a hole for each verb
// of a format and for each value that is put between two of them.
func sentences(t *testing.T) []string {
	x := &sourced{found: map[string]bool{}}
	for _, root := range told {
		root = filepath.Join("..", "..", root)
		require.NoError(t, filepath.WalkDir(root, func(path string, d fs.DirEntry, err error) error {
			if err != nil {
				return err
			}
			if d.IsDir() {
				if strings.HasSuffix(path, "test") {
					return filepath.SkipDir
				}
				return nil
			}
			if !strings.HasSuffix(path, ".go") || strings.HasSuffix(path, "_test.go") || strings.HasSuffix(path, ".gen.go") {
				return nil
			}
			f, err := parser.ParseFile(token.NewFileSet(), path, nil, 0)
			if err != nil {
				return err
			}
			ast.Inspect(f, x.visit)
			return nil
		}))
	}
	return slices.Sorted(maps.Keys(x.found))
}

type sourced struct{ found map[string]bool }

// piece is a part of a sentence: letters, or a hole.
type piece struct {
	text string
	hole byte // s for words, n for a number; 0 for letters
}

func (x *sourced) add(pieces []piece) {
	key, n := strings.Builder{}, 0
	for _, p := range pieces {
		switch p.hole {
		case 0:
			key.WriteString(p.text)
			continue
		case 'n':
			fmt.Fprintf(&key, "{#%d}", n)
		default:
			fmt.Fprintf(&key, "{%d}", n)
		}
		n++
	}
	if k := key.String(); prose(k) {
		x.found[k] = true
	}
}

// prose reports whether a literal is for people: more words than one, or one that begins a
// sentence. Markup, queries and formulas are none.
func prose(s string) bool {
	if formula.MatchString(s) || strings.ContainsAny(s, "<\x00") {
		return false
	}
	bare := hole.ReplaceAllString(s, "")
	all := words.FindAllString(bare, -1)
	if len(all) == 0 {
		return false
	}
	if len(all) > 1 && strings.Contains(bare, " ") || strings.Contains(s, "{") && strings.Contains(s, " ") {
		return true
	}
	first := []rune(bare)[0]
	return unicode.IsUpper(first) && len([]rune(all[0])) > 2 && strings.ToUpper(all[0]) != all[0]
}

func (x *sourced) visit(n ast.Node) bool {
	switch n := n.(type) {
	case *ast.ImportSpec:
		return false
	case *ast.Field:
		return n.Tag == nil
	case *ast.CaseClause: // what is compared is no word
		for _, s := range n.Body {
			ast.Inspect(s, x.visit)
		}
		return false
	case *ast.CallExpr:
		return x.call(n)
	case *ast.BinaryExpr:
		if n.Op == token.EQL || n.Op == token.NEQ {
			return false
		}
		if n.Op == token.ADD {
			return x.sum(n)
		}
	case *ast.BasicLit:
		if n.Kind == token.STRING {
			s, _ := strconv.Unquote(n.Value)
			if verb.MatchString(s) {
				x.add(format(s))
			} else {
				x.add([]piece{{text: s}})
			}
		}
	}
	return true
}

// call looks into what a function is given, but for those that speak to no user.
func (x *sourced) call(c *ast.CallExpr) bool {
	if id, ok := c.Fun.(*ast.Ident); ok && id.Name == "panic" {
		return false
	}
	if s, ok := c.Fun.(*ast.SelectorExpr); ok {
		of, _ := s.X.(*ast.Ident)
		if s.Sel.Name == "MustCompile" || of != nil && (of.Name == "fmt" && s.Sel.Name == "Errorf" || of.Name == "errors" && s.Sel.Name == "New" ||
			of.Name == "slog") {
			return false
		}
	}
	if p, ok := sprintf(c); ok {
		x.add(p)
		for _, a := range c.Args[1:] {
			ast.Inspect(a, x.visit)
		}
		return false
	}
	return true
}

// sum is a sentence that is put together.
func (x *sourced) sum(b *ast.BinaryExpr) bool {
	all := pieces(b)
	if !slices.ContainsFunc(all, func(p piece) bool { return p.hole == 0 }) {
		return true
	}
	x.add(all)
	var inner func(e ast.Expr)
	inner = func(e ast.Expr) {
		switch e := e.(type) {
		case *ast.BinaryExpr:
			if e.Op == token.ADD {
				inner(e.X)
				inner(e.Y)
				return
			}
		case *ast.BasicLit:
			return
		}
		ast.Inspect(e, x.visit)
	}
	inner(b)
	return false
}

func pieces(e ast.Expr) []piece {
	switch e := e.(type) {
	case *ast.ParenExpr:
		return pieces(e.X)
	case *ast.BasicLit:
		if e.Kind == token.STRING {
			s, _ := strconv.Unquote(e.Value)
			return []piece{{text: s}}
		}
	case *ast.BinaryExpr:
		if e.Op == token.ADD {
			return append(pieces(e.X), pieces(e.Y)...)
		}
	case *ast.CallExpr:
		if p, ok := sprintf(e); ok {
			return p
		}
	}
	return []piece{{hole: 's'}}
}

func sprintf(c *ast.CallExpr) ([]piece, bool) {
	s, ok := c.Fun.(*ast.SelectorExpr)
	if !ok || s.Sel.Name != "Sprintf" || len(c.Args) == 0 {
		return nil, false
	}
	text := ""
	for _, p := range pieces(c.Args[0]) {
		if p.hole != 0 {
			return nil, false
		}
		text += p.text
	}
	return format(text), true
}

// format is a format with a hole for each of its verbs.
func format(f string) []piece {
	var out []piece
	for {
		at := verb.FindStringIndex(f)
		if at == nil {
			break
		}
		out = append(out, piece{text: f[:at[0]]})
		switch f[at[1]-1] {
		case '%':
			out = append(out, piece{text: "%"})
		case 'd', 'g', 'f', 'e':
			out = append(out, piece{hole: 'n'})
		default:
			out = append(out, piece{hole: 's'})
		}
		f = f[at[1]:]
	}
	return append(out, piece{text: f})
}
