package export

import (
	"encoding/csv"
	"fmt"
	"io"
	"strconv"

	"obturon/internal/document"
)

// stepColumns are the columns of a table of steps.
var stepColumns = []string{
	"number", "cavity", "step", "instruments", "speed", "seconds", "depth_mm", "action", "why", "gauge", "look_for", "caution", "stays", "position",
	"enamel_mm3", "dentin_mm3", "filling_mm3", "left_mm3", "nearest_neighbour_mm", "nearest_pulp_mm", "hot_way_mm", "lack",
}

// WriteSteps writes a sequence as comma-separated values, a step a row under a row of
// names. What plays no part in a step is left empty. Errors are those of the writer.
func WriteSteps(w io.Writer, d document.ProvenSequence) error {
	out := csv.NewWriter(w)
	rows := [][]string{stepColumns}
	for n, s := range d.Steps {
		row := []string{
			strconv.Itoa(
				n + 1,
			), s.Of, s.Step, s.Instrument, string(s.Speed), strconv.Itoa(s.Seconds), figure(s.DepthMm), s.Action, s.Why, s.Gauge, s.LookFor, s.Caution, s.Stays, s.Position,
		}
		if c := s.Cut; c != nil {
			row = append(
				row,
				exact(c.EnamelMm3),
				exact(c.DentinMm3),
				exact(c.FillingMm3),
				exact(c.LeftMm3),
				figure(c.NearestNeighbourMm),
				figure(c.NearestPulpMm),
				figure(c.HotWayMm),
			)
		} else {
			row = append(row, "", "", "", "", "", "", "")
		}
		rows = append(rows, append(row, s.Lack))
	}
	if err := out.WriteAll(rows); err != nil {
		return fmt.Errorf("writing the steps: %w", err)
	}
	return nil
}

// figure is a length (mm), empty where there is none.
func figure(mm float64) string {
	if mm == 0 {
		return ""
	}
	return exact(mm)
}

func exact(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }
