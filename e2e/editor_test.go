package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"
)

// fills types into a field of a recipe, by where it stands in the file.
func (u *user) fills(field, text string) {
	u.s.t.Helper()
	u.el("[name='" + field + "']").MustSelectAllText().MustInput(text)
}

// selects chooses one of a field's options.
func (u *user) selects(field, option string) {
	u.s.t.Helper()
	u.el("select[name='" + field + "']").MustSelect(option)
}

// grows adds to a thing of a recipe what it does not have yet.
func (u *user) grows(thing, by string) {
	u.s.t.Helper()
	u.el("select[aria-label='Add to: " + thing + "']").MustSelect(by)
}

// A recipe is made on screen: a part along the axis, a step with a limit, a form and a caution,
// a group's stages, a row of the sheet. What is wrong is said beside its field as it is typed; it is gone through dry;
// what differs is shown; it is kept, a joint is issued by it, and worked by it to the signed record.
func TestARecipeMadeOnScreen(t *testing.T) {
	s := open(t)
	edda := s.signIn("edda")
	edda.MustNavigate(s.url("/library/hose-clamp"))
	edda.sees("a", "^Edit$").MustClick()
	edda.sees("h1", "^The joint$")

	// A part, drawn where it lies.
	edda.sees("nav button", "^Parts along the axis").MustClick()
	edda.sees("button", "Add a part$").MustClick()
	edda.sees("[role=alert]", "A part has no name")
	edda.fills("parts.6.name", "dust sleeve")
	edda.selects("parts.6.family", "sleeve")
	edda.MustWait("() => [...document.querySelectorAll('main svg text')].some((t) => t.textContent.includes('sleeve'))")

	// A step with a limit: what contradicts itself is said beside the field, and nothing is lost.
	edda.sees("button", "Add a step to lay out$").MustClick()
	edda.sees("footer", "1 thing to mend[^]*says nothing")
	edda.fills("steps.8.text", "Wall of the dust sleeve")
	edda.selects("steps.8.does", "measure")
	edda.sees("[role=alert]", "A step that is to measure and its limit do not go together")
	edda.grows("Wall of the dust sleeve", "What it may be")
	edda.fills("steps.8.limit.low", "3")
	edda.fills("steps.8.limit.high", "2")
	edda.selects("steps.8.limit.unit", "mm")
	edda.sees("[role=alert], p", "begins at 3, above its end at 2|begins at 3 mm, above its end at 2 mm")
	edda.sees("button[disabled]", "^Keep as edition 2$")
	edda.fills("steps.8.limit.low", "1")
	edda.sees("footer", "Nothing is wrong with it")
	edda.sees("section", "As it reads[^]*1 to 2 mm")
	edda.grows("Wall of the dust sleeve", "Cautions")
	edda.fills("steps.8.cautions.0.text", "Edges cut.")
	edda.sees("section", "As it reads[^]*Edges cut")
	edda.sees("button", "Earlier$").MustClick()
	edda.sees("nav button[aria-current=true]", "Wall of the dust sleeve")
	require.Contains(t, edda.sees("nav section", "^Lay out").MustText(), "Wall of the dust sleeve\nplace\nBolts")

	// A row of the maker's sheet; one taken out by mistake is there again.
	edda.sees("nav button", "^The maker").MustClick()
	edda.el("input[aria-label='torque, N·m, row 2']").MustSelectAllText().MustInput("42 or so")
	edda.sees("td", "A number, or two")
	edda.el("input[aria-label='torque, N·m, row 2']").MustSelectAllText().MustInput("42")
	edda.el("button[aria-label='Take out row 3']").MustClick()
	edda.el("button[aria-label=Undo]").MustClick()
	edda.el("button[aria-label='Take out row 3']")

	// It is laid down, and is there when the page is loaded anew.
	edda.MustReload()
	edda.sees("p", "^Your changes of .* are here, not kept yet")

	// Dry, in both variants: what would come of a reading outside is said.
	edda.sees("label", "^Dry run$").MustClick()
	edda.sees("section", "It can be followed to its signatures[^]*HC 25")
	edda.sees("[data-dry=new-step]", "Wall of the dust sleeve[^]*1.5[^]*2.2 mm; it must be at most 2 mm[^]*say why")
	edda.sees("[data-dry=stop]", "hose home at the stop")
	edda.sees("div:has(> label)", "^Which spigot").MustElement("select").MustSelect("female")
	edda.sees("[data-dry=swivel]", "shank in, a gap left")

	edda.sees("label", "^What differs$").MustClick()
	edda.sees("li", "part dust sleeve added")
	edda.sees("li", "step new-step added[^]*lay out, measure: Wall of the dust sleeve")
	edda.sees("li", "sheet, row HC 50, values changed[^]*torque 42")
	edda.sees("button:not([disabled])", "^Keep as edition 2$").MustClick()
	edda.sees("header p", "Edition 2, by Edda Winterbourne")
	edda.sees("button", "^What differs$").MustClick()
	edda.sees("[role=dialog] section", "^Edition 2, .*by Edda Winterbourne[^]*dust sleeve")
	edda.sees("[role=dialog] section", "^Edition 1[^]*The first one")

	// Used: issued, worked, signed.
	const tag = "RK / WASH HOSE 9"
	marta := s.signIn("marta")
	marta.adds("hose-clamp", tag, "Rake wash hose")
	marta.word("type", "HC")
	marta.word("size", "50")
	marta.word("choices.work", "make")
	marta.word("choices.spigot", "male")
	marta.sees("p", "to 42 N·m")
	edda.opens(tag, 1)
	edda.issues()
	marta.upTo(tag, "new-step")
	marta.cautioned("Edges cut")
	marta.types("new-step", "2.4")
	marta.sees("section", "2.4 mm; it must be at most 2 mm")
	marta.measures("new-step", "1.4")
	marta.toTheEnd(tag)
	marta.signsMade()
	ines := s.signIn("ines")
	ines.signsChecked(tag, "")
	text := ines.record(tag)
	require.Contains(t, text, "Wall of the dust sleeve")
	require.Contains(t, text, "1.4 mm")
	require.Contains(t, text, "edition 2")
}

// Every page of the editor holds at every size, names what it asks and can be pressed with a
// glove.
func TestTheEditorHolds(t *testing.T) {
	s := open(t)
	edda := s.signIn("edda")
	var e extent
	edda.MustNavigate(s.url("/library/transport-frame/edit"))
	for _, at := range []string{"The joint", "Variants", "Values of", "Parts along", "Kit", "Bolts", "What repeats", "The maker", "Centre to the outer",
		"Halves by letter"} {
		for _, size := range [][2]int{{1280, 800}, {390, 844}} {
			edda.MustSetViewport(size[0], size[1], 1, false)
			if size[0] > 860 {
				edda.sees("nav button", at).MustClick()
				edda.el("nav button[aria-current=true]")
			}
			edda.sees("footer", "Nothing is wrong with it")
			require.NoError(t, edda.MustEval(overflow).Unmarshal(&e))
			require.LessOrEqual(t, e.Wide, 0.0, "%s at %d × %d", at, size[0], size[1])
			require.Empty(t, e.Small, "%s at %d × %d", at, size[0], size[1])
		}
	}
}

// What somebody else kept meanwhile is not lost under one's own: it is said, looked at, and
// only then is one's own kept on it.
func TestAnEditionThatWasOvertaken(t *testing.T) {
	s := open(t)
	edda, tomas := s.signIn("edda"), s.signIn("tomas")
	for _, u := range []*user{edda, tomas} {
		u.MustNavigate(s.url("/library/wheel-nuts/edit"))
		u.sees("footer", "Nothing is wrong with it")
	}
	edda.fills("title", "Wheel nuts, ours")
	edda.sees("button:not([disabled])", "^Keep as edition 2$").MustClick()
	edda.sees("header p", "Edition 2, by Edda")
	tomas.fills("title", "Wheel nuts, mine")
	tomas.sees("footer", "Edition 2 was kept meanwhile")
	tomas.sees("button[disabled]", "^Keep as edition 3$")
	tomas.sees("label", "^What differs$").MustClick()
	tomas.sees("li", "Wheel nuts, ours[^]*Wheel nuts, mine")
	tomas.sees("button", "^I have looked").MustClick()
	tomas.sees("button:not([disabled])", "^Keep as edition 3$").MustClick()
	tomas.sees("header p", "Edition 3, by Tomas")
}

// A maker's sheet is hung at a recipe and at a joint's step, and is at hand where it was hung:
// in the Library, beside the plan, with the kit, at its step, opened at its page.
func TestAMakersSheetIsAtHand(t *testing.T) {
	s := open(t)
	edda := s.signIn("edda")
	pdf := filepath.Join(t.TempDir(), "bonnet.pdf")
	require.NoError(t, os.WriteFile(pdf, []byte("%PDF-1.4\n1 0 obj<</Type/Catalog>>endobj\ntrailer<</Root 1 0 R>>\n%%EOF\n"), 0o600))
	hang := func(file string) {
		t.Helper()
		edda.sees("button", "^Hang a sheet here$").MustClick()
		require.NoError(t, edda.el("[role=dialog] input[type=file]").SetFiles([]string{file}))
	}
	edda.MustNavigate(s.url("/library/gasketed-flange"))
	no := filepath.Join(t.TempDir(), "letter.pdf")
	require.NoError(t, os.WriteFile(no, []byte("a letter"), 0o600))
	hang(no)
	edda.sees("[role=dialog] button:not([disabled])", "^Hang it$").MustClick()
	edda.sees("[role=dialog] [role=alert]", "neither a PDF nor a picture")
	require.NoError(t, edda.el("[role=dialog] input[type=file]").SetFiles([]string{pdf}))
	edda.el("[role=dialog] input[name=title]").MustSelectAllText().MustInput("Maker's flange sheet")
	edda.sees("[role=dialog] button:not([disabled])", "^Hang it$").MustClick()
	edda.alone()
	edda.sees("section a[data-paper]", "^Maker's flange sheet$")

	edda.opens("IV-2 / BONNET", 1)
	edda.sees("label", "^the plan$").MustClick()
	edda.sees("section a[data-paper]", "^Maker's flange sheet$")
	hang(edda.picture(1200, 900))
	edda.el("[role=dialog] input[name=title]").MustSelectAllText().MustInput("Its nameplate")
	edda.el("[role=dialog] select[name=step]").MustSelect("Stages in cross order, then rounds until nothing moves")
	edda.sees("[role=dialog] button:not([disabled])", "^Hang it$").MustClick()
	edda.alone()

	marta := s.signIn("marta")
	marta.opens("IV-2 / BONNET", 3)
	href := *marta.sees("a[data-paper]", "^Its nameplate$").MustAttribute("href")
	require.Regexp(t, "^/api/papers/file/[0-9a-f]{64}$", href)
	marta.sees("[data-act=main]", "clicked")
	edda.el("[aria-label='Take off: Its nameplate']").MustClick()
	require.NoError(t, edda.until(func() bool { return len(edda.MustElements("[aria-label='Take off: Its nameplate']")) == 0 }))
	marta.MustReload()
	marta.sees("[data-act=main]", "clicked")
	require.Empty(t, marta.MustElements("a[data-paper]"))
}
