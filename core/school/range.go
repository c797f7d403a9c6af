package school

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math"
)

// Range is an interval of millimetres, degrees, mm³ or a ratio, ends included. An
// open end is infinite; in documents it is left out. The zero Range accepts only 0.
type Range struct{ Min, Max float64 }

// AtLeast is the range that is open upwards; AtMost the one open downwards.
func AtLeast(least float64) Range { return Range{Min: least, Max: math.Inf(1)} }

// AtMost is the range that is open downwards.
func AtMost(most float64) Range { return Range{Min: math.Inf(-1), Max: most} }

// Contains reports whether v lies in the range, ends included.
func (r Range) Contains(v float64) bool { return v >= r.Min && v <= r.Max }

// Scale multiplies both ends by a positive factor.
func (r Range) Scale(f float64) Range { return Range{r.Min * f, r.Max * f} }

// Within widens both ends by a slack.
func (r Range) Within(slack float64) Range { return Range{r.Min - slack, r.Max + slack} }

// Off is by how much a value lies outside the range; negative inside it.
func (r Range) Off(v float64) float64 { return math.Max(r.Min-v, v-r.Max) }

// Ends gives both ends, nil where the range is open.
func (r Range) Ends() (low, high *float64) {
	if !math.IsInf(r.Min, -1) {
		low = &r.Min
	}
	if !math.IsInf(r.Max, 1) {
		high = &r.Max
	}
	return low, high
}

// String reads "0.3 to 0.5", "at least 2" or "at most 0.3", to a hundredth.
func (r Range) String() string {
	hundredth := func(v float64) float64 { return math.Round(v*100) / 100 }
	switch low, high := r.Ends(); {
	case low == nil && high == nil:
		return "anything"
	case high == nil:
		return fmt.Sprintf("at least %g", hundredth(*low))
	case low == nil:
		return fmt.Sprintf("at most %g", hundredth(*high))
	default:
		return fmt.Sprintf("%g to %g", hundredth(*low), hundredth(*high))
	}
}

type rangeDocument struct {
	Min *float64 `json:"min,omitempty"`
	Max *float64 `json:"max,omitempty"`
}

// MarshalJSON leaves open ends out. It fails for an end that is no number.
func (r Range) MarshalJSON() ([]byte, error) {
	low, high := r.Ends()
	return json.Marshal(rangeDocument{low, high})
}

// UnmarshalJSON reads a missing end as open. It fails on unknown fields and on a
// range that is open at both ends.
func (r *Range) UnmarshalJSON(data []byte) error {
	decoder := json.NewDecoder(bytes.NewReader(data))
	decoder.DisallowUnknownFields()
	var d rangeDocument
	if err := decoder.Decode(&d); err != nil {
		return fmt.Errorf("reading a range: %w", err)
	}
	if d.Min == nil && d.Max == nil {
		return fmt.Errorf("a range needs min, max or both: %s has neither", data)
	}
	*r = Range{math.Inf(-1), math.Inf(1)}
	if d.Min != nil {
		r.Min = *d.Min
	}
	if d.Max != nil {
		r.Max = *d.Max
	}
	return nil
}
