package lesion

import "obturon/core/notation"

// divided reports a tooth whose transverse ridge parts its fissure into a mesial and a
// distal pit, with no middle to be carious: the lower first premolar.
func divided(t notation.Tooth) bool {
	return !t.Primary() && !t.Upper() && !t.Anterior() && t.Position() == 4
}

// Apart gives a finding as it lies on the tooth: caries said to lie in the middle of a
// fissure that a ridge parts lies in the pits on either side of it, and a trench through
// the ridge would weaken the tooth for nothing.
func Apart(f Finding, t notation.Tooth) []Finding {
	if f.Site != Central || !divided(t) || f.Kind != FissureCaries && f.Kind != PitCaries {
		return []Finding{f}
	}
	mesial, distal := f, f
	mesial.Site, distal.Site = MesialPit, DistalPit
	return []Finding{mesial, distal}
}
