package render

import (
	"obturon/core/instrument"
	"obturon/core/procedure"
	"obturon/internal/document"
)

// Steps writes a procedure.
func Steps(steps []procedure.Step) []document.Step {
	list := make([]document.Step, len(steps))
	for n, s := range steps {
		list[n] = document.Step{
			Id: s.ID, Kind: s.Kind, Phase: s.Kind.Phase(), Step: s.Name, Of: s.Of, Increment: s.Increment, Instrument: s.Tray(), Instruments: append([]instrument.ID{}, s.Instruments...),
			Speed: s.Speed, Action: s.Action, DepthMm: document.Thousandth(s.Depth), Gauge: s.Gauge, Caution: s.Caution, Seconds: s.Seconds,
			Figure: s.Figure, Why: s.Why, Start: s.Start, Lean: s.Lean, Stays: s.Stays, LookFor: s.LookFor, Grasp: s.Grasp, Position: s.Position, Alarms: s.Alarms, Lack: s.Lack,
			Teeth: s.Teeth, Filling: s.Kind.Fills(), Shown: s.Shown, Clock: clockDocument(s.Clock, steps),
		}
		for _, o := range s.Others {
			list[n].Others = append(list[n].Others, document.OtherInstrument{Instrument: o.Instrument, Trade: o.Trade})
		}
	}
	return list
}

func clockDocument(c *procedure.Clock, among []procedure.Step) *document.StepClock {
	if c == nil {
		return nil
	}
	d := &document.StepClock{LeastSeconds: c.Least, MostSeconds: c.Most}
	if c.After != "" {
		d.After = procedure.Index(among, c.After) + 1
	}
	return d
}
