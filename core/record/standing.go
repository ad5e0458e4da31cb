package record

// Standing is where a run stands.
type Standing string

// The standings, in the order in which they come.
const (
	LayOut  Standing = "lay out"
	ToolUp  Standing = "tool up"
	Tighten Standing = "tighten"
	Stopped Standing = "stopped" // an engineer decides before it goes on
	Prove   Standing = "prove"
	Sign    Standing = "sign"
	Signed  Standing = "signed"
)

// Station is the station that a standing belongs to, from 1 to 5.
func (s Standing) Station() int {
	switch s {
	case LayOut:
		return 1
	case ToolUp:
		return 2
	case Tighten, Stopped:
		return 3
	case Prove:
		return 4
	}
	return 5
}

// Words says where a run stands.
func (s Standing) Words() string {
	switch s {
	case LayOut:
		return "being prepared"
	case ToolUp:
		return "waits for its tool"
	case Tighten:
		return "being tightened"
	case Prove:
		return "waits for proof"
	case Sign:
		return "waits for signatures"
	}
	return string(s)
}
