package joint

import "fmt"

// Name names one bolt of a group: disc screw 3 of the disc screws, bolt 2 of end
// 1, the lock nut where there is one.
func (g Group) BoltName(bolt int) string {
	n := len(g.Name)
	switch {
	case g.Count == 1:
		return One(g.Name)
	case n > 0 && g.Name[n-1] >= '0' && g.Name[n-1] <= '9':
		return fmt.Sprintf("%s, bolt %d", g.Name, bolt)
	}
	return fmt.Sprintf("%s %d", One(g.Name), bolt)
}

// One is a group's name for one of it: "disc screw" of "disc screws".
func One(group string) string {
	if n := len(group); n > 1 && group[n-1] == 's' && group[n-2] != 's' {
		return group[:n-1]
	}
	return group
}
