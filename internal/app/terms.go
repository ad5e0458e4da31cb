package app

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"

	"dynacor/internal/report"
	"dynacor/internal/seal"
	"dynacor/internal/store"
	"dynacor/internal/words"
)

// Spoken is what a site says in a language in words of its own: instead of our terms, and what
// its recipes say.
type Spoken struct {
	Terms []words.Term
	Texts map[string]string // by the English, with numbered holes
}

// Spoken returns the site's own words in a language, as "de".
func (a *App) Spoken(ctx context.Context, language string) (out Spoken, err error) {
	if out.Terms, err = a.ownTerms(ctx, language); err != nil {
		return out, err
	}
	out.Texts, err = a.ownTexts(ctx, language)
	return out, err
}

func (a *App) ownTerms(ctx context.Context, language string) ([]words.Term, error) {
	site, err := a.store.Site(ctx)
	if err != nil {
		return nil, found(err, "site")
	}
	return saidOtherwise(site.Glossary, language), nil
}

// ownTexts are those of every edition that a joint may be made by, the newest last.
func (a *App) ownTexts(ctx context.Context, language string) (map[string]string, error) {
	rows, err := a.store.Recipes(ctx)
	if err != nil {
		return nil, err
	}
	slices.SortStableFunc(rows, func(x, y store.Recipe) int { return x.Edition - y.Edition })
	out := map[string]string{}
	for _, row := range rows {
		r, err := a.parse(row)
		if _, torn := faultOf(err); torn {
			continue // the Library says so
		}
		if err != nil {
			return nil, err
		}
		maps.Copy(out, words.Texts(r, language))
	}
	return out, nil
}

// saidOtherwise are the terms that a glossary overrules.
func saidOtherwise(g store.Glossary, language string) []words.Term {
	return slices.DeleteFunc(words.Own(g).Terms(language), func(t words.Term) bool { return len(t.Own) == 0 })
}

// Overruled is a term that the site says its own way in a language.
type Overruled struct {
	words.Term
	Language string
}

// OverruledBy lists what a glossary overrules, by term and language.
func OverruledBy(g store.Glossary) []Overruled {
	var out []Overruled
	for _, language := range words.Languages() {
		for _, t := range saidOtherwise(g, language) {
			out = append(out, Overruled{t, language})
		}
	}
	slices.SortStableFunc(out, func(x, y Overruled) int { return strings.Compare(x.Term.Term, y.Term.Term) })
	return out
}

// Glossary writes the terms as the site has them, as CSV.
func (a *App) Glossary(ctx context.Context) ([]byte, error) {
	site, err := a.store.Site(ctx)
	if err != nil {
		return nil, found(err, "site")
	}
	var b bytes.Buffer
	err = words.Own(site.Glossary).CSV(&b)
	return b.Bytes(), err
}

// TakeGlossary takes what the site says instead of our terms, as CSV; what the file does not
// overrule is said as it ships. What is wrong with the file is refused with its line, and nothing
// of it is taken.
func (a *App) TakeGlossary(ctx context.Context, by Who, file []byte) error {
	own, err := words.ReadGlossary(file)
	if err != nil {
		return err
	}
	site, err := a.store.Site(ctx)
	if err != nil {
		return found(err, "site")
	}
	maps.DeleteFunc(own, func(_ string, languages map[string][]string) bool { return len(languages) == 0 })
	site.Glossary = store.Glossary(own)
	said := "as it ships"
	if n := len(OverruledBy(site.Glossary)); n > 0 {
		said = fmt.Sprintf("%d terms in the site’s own words", n)
	}
	err = a.change(ctx, a.logged(by, "site", "glossary", said), store.ChangedSite(site))
	a.rules.Store(nil)
	return err
}

// Reader is whom a record is printed for: the site's own words in their language. What its recipe
// says is in its proof.
func (a *App) Reader(ctx context.Context, locale string) (report.Reader, error) {
	out, language := report.Reader{Locale: locale}, languageOf(locale)
	if !slices.Contains(words.Languages(), language) {
		return out, nil
	}
	var err error
	if out.Terms, err = a.ownTerms(ctx, language); err != nil {
		return out, err
	}
	if a.sealer != nil && len(out.Terms) > 0 {
		out.Signed = a.sealer.key.Sign(termsText(out))
	}
	return out, nil
}

// ReaderOfAll is whom something else is printed for, of whichever joints: with what any recipe
// says.
func (a *App) ReaderOfAll(ctx context.Context, locale string) (report.Reader, error) {
	out, err := a.Reader(ctx, locale)
	language := languageOf(locale)
	if err != nil || !slices.Contains(words.Languages(), language) {
		return out, err
	}
	texts, err := a.ownTexts(ctx, language)
	out.Texts = map[string]map[string]string{language: texts}
	return out, err
}

func languageOf(locale string) string {
	language, _, _ := strings.Cut(locale, "-")
	return language
}

// termsText is what is signed of the words that pages are printed in: else whoever has a record
// could have it say "not" by another word, and it would still be what its proof says.
func termsText(r report.Reader) []byte {
	b, err := json.Marshal(struct {
		Locale string       `json:"locale"`
		Terms  []words.Term `json:"terms"`
	}{r.Locale, r.Terms})
	if err != nil {
		panic(err) // strings alone
	}
	return b
}

// signedTerms reports whether the words of pages are those of a site.
func signedTerms(r report.Reader, keys []seal.Public) bool {
	return len(r.Terms) == 0 || slices.ContainsFunc(keys, func(k seal.Public) bool { return k.Holds(termsText(r), r.Signed) })
}
