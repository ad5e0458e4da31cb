package proof

import "fmt"

// Clock writes a clock hour: "12 o’clock", "half past 7".
func Clock(hour float64) string {
	if hour == float64(int(hour)) {
		return fmt.Sprintf("%d o’clock", int(hour))
	}
	return fmt.Sprintf("half past %d", (int(hour)+11)%12+1)
}
