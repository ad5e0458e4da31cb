// Command shots takes the pictures of docs/screenshots from a running demo.
package main

import (
	"encoding/json"
	"flag"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"time"

	"github.com/go-rod/rod"
	"github.com/go-rod/rod/lib/proto"

	"dynacor/e2e/browser"
)

type shot struct {
	name, login, tag string // tag: of a joint, or the path of a page
	station          int
	dark             bool
	width, height    int
	act              func(*rod.Page) // done before the picture is taken
}

var shots = []shot{
	{"crib", "edda", "/crib/TW-07", 0, false, 1280, 800, nil},
	{"wall", "marta", "", 0, false, 1280, 800, nil},
	{"lay-out", "edda", "IV-2 / BONNET", 1, false, 1280, 800, thePlan},
	{"gasket-window", "edda", "RK / COOLER", 1, false, 1280, 800, theWindow},
	{"where-it-comes-from", "edda", "IV-2 / BONNET", 1, false, 1280, 800, whereItComesFrom},
	{"rig-up", "piet", "PS-1 / VALVE FLANGE", 3, false, 1280, 800, theGauge},
	{"stack", "piet", "GOV / ACCUMULATOR 2", 1, false, 1280, 800, theSeals},
	{"dial", "piet", "RK / FLUID COUPLING", 3, false, 1280, 800, theDial},
	{"trace", "tomas", "RK / FEED HEADER", 3, true, 1280, 800, theTrace},
	{"tool-up", "jonas", "U2 / SHAFT SEAL", 2, false, 1280, 800, nil},
	{"tighten", "marta", "IV-2 / BONNET", 3, false, 1280, 800, nil},
	{"tighten-phone", "marta", "IV-2 / BONNET", 3, false, 390, 844, nil},
	{"prove", "ines", "PS-1 / DRAIN", 4, false, 1280, 800, nil},
	{"library", "marta", "/library/accumulator", 0, false, 1280, 800, nil},
	{"editor", "edda", "/library/accumulator/edit?at=parts", 0, false, 1280, 800, theFault},
	{"planning", "liv", "/planning", 0, false, 1280, 800, theList},
	{"cards", "liv", "/wall", 0, false, 1280, 800, theCards},
	{"site", "ruth", "/site", 0, false, 1280, 800, nil},
	{"sign", "haro", "U2 / COOLER IN", 5, false, 1280, 800, nil},
}

// theGauge rigs a hydraulic wrench up as far as its gauge.
func theGauge(p *rod.Page) {
	for range 4 {
		p.MustElement("[data-act=rig]").MustClick()
	}
	p.MustElement("input[name=rig1]").MustInput("240")
	p.MustElement("[data-act=rig]:not([disabled])")
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
	p.MustScreenshot(filepath.Join(out, s.name+".png"))
	fmt.Println(filepath.Join(out, s.name+".png"))
}

// theSeals reads the caution of the seals: the first is next, on the drawing.
func theSeals(p *rod.Page) {
	p.MustElement("[data-act=caution]").MustClick()
	p.MustElement("[data-current=seals]")
}

// theDial types a dial's readings of a coupling that stands off its axis.
func theDial(p *rod.Page) {
	if has, e, _ := p.Has("[data-act=caution]"); has {
		e.MustClick()
	}
	p.MustElement("[data-current=trued]")
	for i, v := range []string{"0", "0.08", "0.18", "0.24", "0.22", "0.14", "0.05", "-0.01", "0"} {
		p.MustElement(fmt.Sprintf("input[name=reading%d]", i+1)).MustInput(v)
	}
	p.MustElement("dl[role=status]")
}

// theWindow types a stress that this load does not seat, and shows the window.
func theWindow(p *rod.Page) {
	p.MustElement("[data-word='values.seating stress']").MustClick()
	p.MustElement("form input[inputmode=decimal]").MustSelectAllText().MustInput("55")
	p.MustElementR("form button", "^Set$").MustClick()
	p.MustElement("[data-holds=false]")
	see(p, "[data-window]")
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

func theCards(p *rod.Page) {
	p.MustElementR("button", "^Lists$").MustClick()
	p.MustElementR("[role=menuitem]", "Cards for the joints").MustClick()
	p.MustElementR("legend", "How many on a sheet")
}

func thePlan(p *rod.Page) { p.MustElementR("label", "^the plan$").MustClick() }

func whereItComesFrom(p *rod.Page) {
	thePlan(p)
	p.MustElement("[data-number='bolts/load']").MustClick()
	p.MustElement("[data-sheet]")
}

// see brings an element to the top of the screen.
func see(p *rod.Page, selector string) {
	p.MustElement(selector).MustEval("() => this.scrollIntoView({block: 'start'})")
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
