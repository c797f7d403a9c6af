package plan

import (
	"fmt"
	"slices"

	"obturon/core/anatomy"
	"obturon/core/assess"
	"obturon/core/drawing"
	"obturon/core/face"
	"obturon/core/lesion"
	"obturon/core/measure"
	"obturon/core/notation"
	"obturon/core/school"
	"obturon/core/solid"
)

// FaceCut is a cavity on a face or an edge, as designed and as measured on a
// tooth that has no other.
type FaceCut struct {
	Request  face.Request
	Design   face.Design
	Cavity   *face.Cavity
	Prepared *measure.Prepared
}

// faceBasis is what a drag leaves alone of a cavity on a face.
type faceBasis struct {
	request  face.Request
	proposal face.Design
}

// faceSite is the site of the cavity that a finding on a face or an edge belongs
// to, "" where it is prepared from the occlusal surface.
func faceSite(f lesion.Finding, all []lesion.Finding, t notation.Tooth) lesion.Site {
	switch {
	case f.OnCorner(), f.OnFace():
		return f.Site
	case f.Proximal() && t.Anterior():
		corner := lesion.MesialCorner
		if f.Site == lesion.Distal {
			corner = lesion.DistalCorner
		}
		// Where the corner is gone, the lesion is reached through what is lost.
		if slices.ContainsFunc(all, func(o lesion.Finding) bool { return o.OnCorner() && o.Site == corner }) {
			return corner
		}
		return f.Site
	default:
		return ""
	}
}

// newFaces places the lesions on faces and edges and proposes a cavity for each
// site, in the order of face.Sites.
func (p *Planner) newFaces(c *Case, m *anatomy.Model, chosen *school.School, choice Choice, facing map[notation.Side]*anatomy.Facing, toSeal func(lesion.Finding) bool) ([]faceBasis, error) {
	all := c.coreFindings()
	var faces []faceBasis
	for _, site := range face.Sites {
		r := face.Request{
			Model: m, Site: site, School: chosen, Material: choice.Material, Style: face.Style(choice.Finish), Lock: choice.Lock,
			Translucent: c.Enamel == Translucent, Gingiva: c.gingiva(), Visible: c.Patient.VisibleZone, Facing: facing[sideOf(site)],
		}
		for _, f := range all {
			if f.Kind == lesion.Crack || faceSite(f, all, m.Tooth) != site || toSeal(f) {
				continue
			}
			l, err := lesion.New(m, f)
			if err != nil {
				return nil, fmt.Errorf("placing the lesion: %w", err)
			}
			if lesionReachesPulp(m, l) {
				return nil, errPulpReached
			}
			r.Lesions = append(r.Lesions, l)
		}
		if len(r.Lesions) == 0 {
			continue
		}
		proposal, err := face.Propose(r)
		if err != nil {
			return nil, err
		}
		faces = append(faces, faceBasis{r, proposal})
	}
	return faces, nil
}

// sideOf is the side of the mouth's midline that a site faces; faces that look
// to neither count as mesial, where no neighbour is asked for.
func sideOf(site lesion.Site) notation.Side {
	if site == lesion.Distal || site == lesion.DistalCorner {
		return notation.Distal
	}
	return notation.Mesial
}

// lesionReachesPulp reports a lesion that leaves no dentin to stop at.
func lesionReachesPulp(m *anatomy.Model, l lesion.Lesion) bool {
	switch l := l.(type) {
	case *lesion.Corner:
		return l.ToPulp() < leastDentin
	case *lesion.Face:
		return m.Pulp().Distance(l.Deepest()) < leastDentin
	case *lesion.Proximal:
		return m.Pulp().Distance(l.Deepest()) < leastDentin
	default:
		return false
	}
}

// cutFaces builds the cavities on faces and edges with the dentist's own values.
func cutFaces(c *Case, faces []faceBasis) ([]FaceCut, error) {
	var cuts []FaceCut
	for _, f := range faces {
		design := f.proposal.Apply(c.Overrides)
		cavity, err := face.Build(f.request, design)
		if err != nil {
			return nil, err
		}
		cuts = append(cuts, FaceCut{Request: f.request, Design: design, Cavity: cavity})
	}
	return cuts, nil
}

// gauge looks at the cavity in its own frame.
func (f FaceCut) gauge() measure.Face { return f.Prepared.Face(f.Cavity.Frame) }

func (f FaceCut) checks() []assess.Check {
	return assess.Face(assess.FaceSubject{
		Face: f.gauge(), Design: f.Design, Lesions: f.Request.Lesions, Facing: f.Request.Facing,
		School: f.Request.School, Material: f.Request.Material, Visible: f.Request.Visible,
		Gingival: f.Request.Model.GingivalLine(f.Request.Gingiva),
	})
}

func (f FaceCut) views(neighbours map[notation.Side]*anatomy.Neighbour, at Sections) []drawing.View {
	return drawing.Face(drawing.FaceSubject{
		Subject: drawing.Subject{
			Prepared: f.Prepared, Cavity: f.Cavity, Lesions: toolsOf(f.Request.Lesions, false), Fillings: toolsOf(f.Request.Lesions, true),
			Neighbours: neighbours, AcrossAt: at.Across, AlongAt: at.Along,
		},
		Face: f.gauge(), Design: f.Design, Gingival: f.Request.Model.GingivalLine(f.Request.Gingiva),
	})
}

// finish measures what a margin's finish gains and costs.
func (f FaceCut) finish(neighbours map[notation.Side]*anatomy.Neighbour) Finish {
	bonded := f.Prepared.Bonded()
	var beside []*anatomy.Neighbour
	for _, n := range neighbours {
		beside = append(beside, n)
	}
	margin, seen := f.Prepared.MarginSeen(beside...)
	spent := f.Prepared.Volumes().Enamel
	for _, l := range f.Request.Lesions {
		spent -= l.Volume() - lesion.VolumeWithin(l, f.Request.Model.Dentin().Distance)
	}
	out := Finish{
		Site: string(f.Design.Site), Name: face.Name(f.Design.Site), Class: f.Design.Class(), Style: string(f.Design.Style),
		BondedEnamel: round(bonded.Enamel), BondedDentin: round(bonded.Dentin), EnamelSpent: round(max(spent, 0)),
		Margin: round(margin), MarginSeen: round(seen),
	}
	if f.Design.Class() == lesion.ClassIII && f.Request.Facing != nil {
		out.Contact = contactWord(f.gauge().ContactLeft(contactOf(f.Request.Model, sideOf(f.Design.Site))))
	}
	return out
}

// contactWord says what a cavity leaves of a contact area, given its share.
func contactWord(left float64) string {
	const whole, none = 0.95, 0.05
	switch {
	case left >= whole:
		return "kept"
	case left <= none:
		return "broken"
	default:
		return "partly broken"
	}
}

// toolsOfFaces lists the solids of cavities on faces and edges.
func toolsOfFaces(cuts []FaceCut) []solid.Tool {
	var tools []solid.Tool
	for _, f := range cuts {
		tools = append(tools, f.Cavity)
	}
	return tools
}
