package sequence

import (
	"fmt"
	"strings"

	"obturon/core/instrument"
	"obturon/core/procedure"
	"obturon/core/rehearsal"
)

// named is an instrument as a sentence has it.
func named(i instrument.Instrument) string {
	if strings.EqualFold(string(i.ID), i.Name) || i.Head == nil {
		return "the " + string(i.ID)
	}
	return fmt.Sprintf("the %s (%s)", i.ID, i.Name)
}

// lack is what a step's instrument stands in for, and what that trades; "" where it is the
// one that suits best.
func (f fact) lack() string {
	l := f.Lack
	if l == nil {
		return ""
	}
	text := fmt.Sprintf("%s would be taken up, but %s. The %s stands in", sentence(named(f.kit.Get(l.Missing))), l.Out, l.Instead)
	if f.ByHand {
		for _, s := range instrument.Instead[l.Missing] {
			if s.ID == l.Instead {
				text += ": " + s.Trade
			}
		}
		return text + "."
	}
	return fmt.Sprintf("%s: %s; at once it takes %s mm³, the %s would take %s.", text,
		f.trade(f.kit.Get(l.Missing), f.kit.Get(l.Instead)), volume(l.InsteadTakes), l.Missing, volume(l.MissingTakes))
}

// Undone is, in words, what of a cavity nobody can do with the kit.
func Undone(r *rehearsal.Rehearsal) []string {
	all := []string{}
	for _, l := range r.Lacks {
		step := (&rehearsal.Step{Kind: l.Kind, Side: l.Side}).Name()
		text := fmt.Sprintf("%s: %s would be taken up, but %s, and nothing in the kit does its work", step, named(r.Kit.Get(l.Missing)), l.Out)
		if l.Stays > 0 {
			text += fmt.Sprintf(": %s mm³ stay", volume(l.Stays))
		}
		all = append(all, text+".")
	}
	return all
}

// supplied says of what a step takes up beside what it cuts with, where that does not lie
// ready, what to take instead.
func supplied(s procedure.Step, kit *instrument.Kit) string {
	var parts []string
	for _, id := range s.Instruments {
		if kit.Has(id) {
			continue
		}
		text := fmt.Sprintf("%s: %s", sentence(named(kit.Get(id))), kit.Out(id))
		instead := "nothing else in the kit does its work"
		for _, other := range instrument.Instead[id] {
			if kit.Has(other.ID) {
				instead = fmt.Sprintf("take the %s, which %s", other.ID, other.Trade)
				break
			}
		}
		parts = append(parts, text+"; "+instead+".")
	}
	return strings.Join(parts, " ")
}

func sentence(text string) string { return strings.ToUpper(text[:1]) + text[1:] }
