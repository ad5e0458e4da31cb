// Command shots takes the pictures of docs/screenshots from a running demo.
package main

import (
	"bytes"
	"encoding/json"
	"flag"
	"fmt"
	"image"
	"image/draw"
	"image/png"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/input"
	"github.com/go-rod/rod/lib/proto"

	"dynacor/e2e/browser"
)

type shot struct {
	name, login, tag string // tag: of a joint, or the path of a page
	station          int
	dark             bool
	width, height    int
	act              func(*rod.Page) // done before the picture is taken
	both             bool            // in the light scheme, and below it in the dark
}

var shots = []shot{
	{"crib", "edda", "/crib/TW-07", 0, false, 1280, 800, nil, false},
	{"wall", "marta", "", 0, false, 1280, 800, nil, false},
	{"lay-out", "edda", "IV-2 / BONNET", 1, false, 1280, 800, thePlan, false},
	{"where-it-comes-from", "edda", "IV-2 / BONNET", 1, false, 1280, 800, whereItComesFrom, false},
	{"stack", "piet", "GOV / ACCUMULATOR 2", 1, false, 1280, 800, theSeals, false},
	{"trace", "tomas", "RK / FEED HEADER", 3, true, 1280, 800, theTrace, false},
	{"tool-up", "jonas", "U2 / SHAFT SEAL", 2, false, 1280, 800, nil, false},
	{"tighten", "marta", "IV-2 / BONNET", 3, false, 1280, 800, nil, false},
	{"tighten-phone", "marta", "IV-2 / BONNET", 3, false, 390, 844, nil, false},
	{"prove", "ines", "PS-1 / DRAIN", 4, false, 1280, 800, nil, false},
	{"library", "marta", "/library/accumulator", 0, false, 1280, 800, nil, false},
	{"editor", "edda", "/library/accumulator/edit?at=parts", 0, false, 1280, 800, theFault, false},
	{"planning", "liv", "/planning", 0, false, 1280, 800, theList, false},
	{"site", "ruth", "/site", 0, false, 1280, 800, nil, false},
	{"sign", "haro", "U2 / COOLER IN", 5, false, 1280, 800, nil, false},
	{"bench", "edda", "IV-2 / BONNET", 1, false, 1280, 800, theBench, true},
	{"replay", "edda", "PS-1 / MANWAY", 5, false, 1280, 800, theBench, true},
	{"drill-next", "jonas", "/bench/drills", 0, false, 1280, 800, theNext, true},
	{"drill-parts", "jonas", "/bench/drills", 0, false, 1280, 800, theParts, true},
}

// theTrace opens the newest trace of a linked wrench.
func theTrace(p *rod.Page) {
	p.MustElement("[data-story=yielding]").MustScrollIntoView().MustClick()
	p.MustElement("[data-trace]")
}

// theFault names a part that is not there, and looks at what the editor says.
func theFault(p *rod.Page) {
	p.MustElementR("[aria-label=parts] button", "fluid-port nut").MustClick()
	p.MustElement("[name='parts.13.toward']").MustSelectAllText().MustInput("shel")
	p.MustElementR("p", "which is not there")
	p.MustElement("[aria-label=parts]").MustEval("() => this.scrollIntoView({ block: 'start' })")
}

func main() {
	url := flag.String("url", "http://127.0.0.1:8080", "address of the demo")
	out := flag.String("out", "docs/screenshots", "folder to write to")
	only := flag.String("only", "", "names to take, separated by commas; all when empty")
	one := flag.String("one", "", "a single picture: name,login,tag,station,dark,width,height and, if need be, what to click on first")
	locale := flag.String("locale", "en-GB", "whose words are on them")
	flag.Parse()
	list := shots
	if *one != "" {
		var s shot
		f := strings.Split(*one, ",")
		s.name, s.login, s.tag = f[0], f[1], f[2]
		_, _ = fmt.Sscan(f[3], &s.station)
		s.dark = f[4] == "dark"
		_, _ = fmt.Sscan(f[5]+" "+f[6], &s.width, &s.height)
		s.act = func(p *rod.Page) {
			for _, text := range f[7:] {
				if css, ok := strings.CutPrefix(text, "css:"); ok {
					p.MustElement(css).MustScrollIntoView().MustClick()
				} else if fill, ok := strings.CutPrefix(text, "fill:"); ok {
					name, value, _ := strings.Cut(fill, "=")
					p.MustElement("[name='" + name + "']").MustSelectAllText().MustInput(value)
				} else if css, ok := strings.CutPrefix(text, "see:"); ok {
					p.MustElement(css).MustEval("() => this.scrollIntoView({block: 'start'})")
				} else {
					p.MustElementR("button, label", text).MustClick()
				}
			}
		}
		list = []shot{s}
	}
	if err := take(*url, *out, *only, *locale, list); err != nil {
		fmt.Fprintln(os.Stderr, "shots:", err)
		os.Exit(1)
	}
}

func take(url, out, only, locale string, list []shot) error {
	if err := os.MkdirAll(out, 0o755); err != nil {
		return err
	}
	b, stop, err := browser.Start()
	if err != nil {
		return err
	}
	defer stop()
	for _, s := range list {
		if only != "" && !strings.Contains(","+only+",", ","+s.name+",") {
			continue
		}
		err := rod.Try(func() { s.take(b.MustIncognito(), url, out, locale) })
		if err != nil {
			return fmt.Errorf("%s: %w", s.name, err)
		}
	}
	return nil
}

func (s shot) take(b *rod.Browser, url, out, locale string) {
	pictures := [][]byte{s.picture(b, url, locale)}
	if s.both {
		s.dark = true
		pictures = append(pictures, s.picture(b.MustIncognito(), url, locale))
	}
	file := filepath.Join(out, s.name+".png")
	if err := os.WriteFile(file, below(pictures), 0o644); err != nil {
		panic(err)
	}
	fmt.Println(file)
}

// below joins pictures, one below the other.
func below(pictures [][]byte) []byte {
	if len(pictures) == 1 {
		return pictures[0]
	}
	var all *image.RGBA
	for i, b := range pictures {
		one, err := png.Decode(bytes.NewReader(b))
		if err != nil {
			panic(err)
		}
		size := one.Bounds()
		if all == nil {
			all = image.NewRGBA(image.Rect(0, 0, size.Dx(), size.Dy()*len(pictures)))
		}
		draw.Draw(all, image.Rect(0, i*size.Dy(), size.Dx(), (i+1)*size.Dy()), one, size.Min, draw.Src)
	}
	var out bytes.Buffer
	if err := png.Encode(&out, all); err != nil {
		panic(err)
	}
	return out.Bytes()
}

func (s shot) picture(b *rod.Browser, url, locale string) []byte {
	p := b.MustPage("").Timeout(30 * time.Second)
	p.MustSetViewport(s.width, s.height, 1, false)
	scheme := "light"
	if s.dark {
		scheme = "dark"
	}
	_ = proto.EmulationSetEmulatedMedia{Features: []*proto.EmulationMediaFeature{
		{Name: "prefers-color-scheme", Value: scheme}, {Name: "prefers-reduced-motion", Value: "reduce"}}}.Call(p)
	p.MustEvalOnNewDocument(fmt.Sprintf("localStorage.setItem('dynacor-locale', %q)", locale))
	p.MustNavigate(url).MustWaitLoad()
	if s.login != "" {
		p.MustElement("input[name=login]").MustInput(s.login)
		p.MustElement("input[name=pin]").MustInput("4711")
		p.MustElement("button[type=submit]").MustClick()
		p.MustElement("a[href='/wall']")
		p.MustElement("main h1")
	}
	switch {
	case strings.HasPrefix(s.tag, "/"):
		p.MustNavigate(url + s.tag).MustWaitLoad()
		p.MustElement("main h1, main nav")
	case s.tag != "":
		p.MustNavigate(url + "/joint/" + find(p, s.tag) + fmt.Sprint("/", s.station)).MustWaitLoad()
		p.MustElement("main h1")
	}
	if s.act != nil {
		s.act(p)
	}
	p.MustWaitRequestIdle(".*api/stream.*")()
	p.MustWait("() => document.fonts.status === 'loaded'")
	if !p.MustHas("[role=timer]") { // a clock that runs is never still
		p.MustWaitDOMStable()
	}
	defer p.MustClose()
	return p.MustScreenshot()
}

// theSeals reads the caution of the seals: the first is next, on the drawing.
func theSeals(p *rod.Page) {
	p.MustElement("[data-act=caution]").MustClick()
	p.MustElement("[data-current=seals]")
}

// theBench tries the joint that is on the screen, and stops where its ways differ.
func theBench(p *rod.Page) {
	p.MustElementR("nav a", "^Bench$").MustClick()
	p.MustElement("[data-outcome='1'], [data-gone]")
	if p.MustHas("[data-outcome='1']") {
		p.MustElement("[data-trial=done]")
		p.MustElement("[role=slider]").MustFocus()
		for range 65 {
			p.Keyboard.MustType(input.ArrowLeft)
		}
	}
}

// theNext answers which bolt is next, most likely wrong.
func theNext(p *rod.Page) {
	p.MustElement("[data-drill='which bolt next']").MustClick()
	p.MustElement("#drill-answer").MustInput("2")
	p.Keyboard.MustType(input.Enter)
	p.MustElement("[data-judged]")
}

// theParts lays parts as they come, most likely wrong.
func theParts(p *rod.Page) {
	p.MustElement("[data-drill='order the parts']").MustClick()
	p.MustElement("[data-part]")
	for _, part := range p.MustElements("[data-part]") {
		part.MustClick()
	}
	p.MustElement("[data-act=main]").MustClick()
	p.MustElement("[data-judged]")
}

// list is one from planning, with what planners write.
const list = `Joint no,Location,Description,Joint type,Torque (ft-lb),Bolts,Bolt size,Grade,Lubrication,Remarks
PS-1 / BYPASS IN,Penstock gallery,"Bypass valve, inlet",Gasketed pipe flange,192,8,M20,8.8,light oil,scaffold
PS-1 / BYPASS OUT,Penstock gallery,"Bypass valve, outlet",Gasketed pipe flange,192,8,M20,8.8,light oil,
RK / FLUSH 1,Rake deck,Flushing water flange,Gasketed pipe flange,"1,250",8,M16,8.8,light oil,
RK / FLUSH 2,Screen house,Flushing water flange,Gasketed pipe flange,88 N·m,8,M16,8.8,light oil,
IV-2 / BONNET,Penstock gallery,Inlet valve bonnet,Gasketed pipe flange,540,16,M30,8.8,light oil,issued
PS-1 / METER RUN,Penstock gallery,"Flow meter run, upstream",Gasketed pipe flange,,12,M16,8.8,light oil,
`

// theList chooses that list and shows what comes of it.
func theList(p *rod.Page) {
	folder, err := os.MkdirTemp("", "shots")
	if err != nil {
		panic(err)
	}
	defer os.RemoveAll(folder)
	file := filepath.Join(folder, "unit 2 joints.csv")
	if err := os.WriteFile(file, []byte(list), 0o600); err != nil {
		panic(err)
	}
	p.MustElement("input[type=file]").MustSetFiles(file)
	p.MustElementR("button", "^Take [0-9]+ in$")
}

func thePlan(p *rod.Page) { p.MustElementR("label", "^the plan$").MustClick() }

func whereItComesFrom(p *rod.Page) {
	thePlan(p)
	p.MustElement("[data-number='bolts/load']").MustClick()
	p.MustElement("[data-sheet]")
}

// find asks the server for the joint of that tag.
func find(p *rod.Page, tag string) string {
	var wall struct {
		Areas []struct{ Joints []struct{ ID, Tag string } }
	}
	body := p.MustEval("() => fetch('/api/wall').then(r => r.text())").Str()
	if err := json.Unmarshal([]byte(body), &wall); err != nil {
		panic(err)
	}
	for _, a := range wall.Areas {
		for _, j := range a.Joints {
			if j.Tag == tag {
				return j.ID
			}
		}
	}
	panic("no joint " + tag)
}
