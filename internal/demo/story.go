package demo

// stage is how far a joint's story goes.
type stage int

const (
	fresh stage = iota
	draft
	issuedOnly
	preparing // part of the steps before a tool is chosen
	tooled
	pulling  // part of the pulls
	checking // into the second round
	stopped  // too many rounds moved a nut
	proving
	signing // the fitter signed, the checker has not
	signed
)

// story is one joint of the outage and how far it has come.
type story struct {
	area, tag, title string
	recipe, size     string // a flange's where none is named
	choices          map[string]string
	counts           map[string]int
	fitter, checker  string
	begun            float64 // days after the outage began
	upTo             stage
	share            float64 // of what that stage has, where it is left in its midst
	before           string  // the step whose turn it is, where it is left at one, or its release
	tell             tale
	edit             edit   // what the draft has beside the sheet
	with             string // the wrench that it was made with; empty: the best there is
	linked           string // the wrench that sends its readings itself; empty: none
	work             string // of a story that follows on another: what an engineer issues from its record
}

// tale is what happened on the way.
type tale struct {
	edit       edit
	skipped    map[string]string    // steps left undone, with the reason
	outside    map[string][]float64 // readings kept outside their limit
	tries      map[string][]float64 // of an adjust step, before the one that is kept
	moved      int                  // a bolt that moved in the first round of the first group that is gone round
	trouble    int                  // a bolt that was replaced
	correction int                  // a bolt whose first reading was put right
	farReading int                  // a bolt that read far off, and was kept
	paused     bool
	then       *story // the work that followed once this was signed
	because    string
}
