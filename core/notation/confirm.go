package notation

import (
	"fmt"
	"strconv"
	"strings"
)

// Confirmation is the second way of naming the tooth, which unlocks a plan:
// the wrong tooth is a classic and irreversible error.
type Confirmation struct {
	// Method is "count" (arch, side and count from the midline, such as
	// "lower right 6"), "universal" or "quadrant".
	Method string
	// Answer is what the dentist said, as typed.
	Answer string
}

// Confirm checks a second naming against the tooth. The error says what the
// answer would have meant, so that a slip is seen for what it is.
func Confirm(t Tooth, c Confirmation) error {
	var named Tooth
	var err error
	answer := strings.TrimSpace(c.Answer)
	switch c.Method {
	case "count":
		named, err = parseCount(answer, t.Primary())
	case "universal":
		named, err = parseUniversal(strings.ToUpper(strings.TrimPrefix(answer, "#")), answer)
	case "quadrant":
		var ok bool
		if named, ok = parseQuadrantLetters(strings.ToUpper(answer)); !ok {
			err = fmt.Errorf("%q is no quadrant name: write two letters and the place, such as LR6", answer)
		}
	default:
		return fmt.Errorf("confirmation method %q is unknown: use count, universal or quadrant", c.Method)
	}
	if err != nil {
		return err
	}
	if named != t {
		return fmt.Errorf(
			"%q is the %s (%s), but the case says %s (%s): count again from the midline before anything else",
			answer,
			named.Name(),
			named,
			t.Name(),
			t,
		)
	}
	return nil
}

// parseCount reads "lower right 6": arch, side, count from the midline.
func parseCount(answer string, primary bool) (Tooth, error) {
	fields := strings.Fields(strings.ToLower(answer))
	fail := fmt.Errorf("%q is no count: say arch, side and the count from the midline, such as lower right 6", answer)
	if len(fields) != 3 {
		return Tooth{}, fail
	}
	quadrant, known := map[string]int{"upper right": 1, "upper left": 2, "lower left": 3, "lower right": 4}[fields[0]+" "+fields[1]]
	count, err := strconv.Atoi(fields[2])
	if !known || err != nil {
		return Tooth{}, fail
	}
	if primary {
		quadrant += 4
	}
	return New(quadrant, count)
}
