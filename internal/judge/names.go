package judge

// Names are the names of people by their id.
type Names map[string]string

// Unknown returns somebody of the runs whose name is not among those known.
func (known Names) Unknown(runs ...Run) string {
	for _, r := range runs {
		if _, ok := known[r.Plan.IssuedBy.String()]; !ok {
			return r.Plan.IssuedBy.String()
		}
		for person := range r.State.People() {
			if _, ok := known[person]; !ok {
				return person
			}
		}
	}
	return ""
}
