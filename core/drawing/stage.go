package drawing

import (
	"math"
	"slices"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/cavity"
	"obturon/core/instrument"
	"obturon/core/measure"
	"obturon/core/solid"
)

// Held is a rotary instrument where it is held, in the tooth frame.
type Held struct {
	Head *instrument.Head
	Pose solid.Pose
}

// What a stage draws beside the tooth: the cavity as it is to become, and the bur.
const (
	Drawn = "drawn"
	Bur   = "bur"
	Shank = "shank" // of the bur, with its neck
)

// remade are the layers that a stage draws anew; all others it has from the finished view.
var remade = []string{Enamel, Dentin, Pulp, Cavity, Bevel, Floor, Lesion, Kept, Filling}

// Stage is a view of a finished cavity as the tooth looks on the way there: as far as it
// is cut, untagged, with the line of what is drawn and the bur in its place; held is nil
// where none is.
func Stage(finished View, s Subject, so *measure.Prepared, held *Held) View {
	v := finished
	v.Layers, v.Tags = nil, nil
	var goal []solid.Polyline
	section := false
	for _, l := range finished.Layers {
		switch l.Kind {
		case Enamel:
			goal, section = append(goal, l.Lines...), true
		case Cavity:
			goal = append(goal, l.Lines...)
		}
		if !slices.Contains(remade, l.Kind) {
			v.Layers = append(v.Layers, l)
		}
	}
	at := Subject{Subject: measure.NewSubject(so, s.Cavity), Cut: s.Cut, Staying: s.Staying, Neighbours: s.Neighbours}
	if section {
		v.sectionOf(so)
		v.add(Filling, v.stillThere(so, s.fillings())...)
		v.add(Lesion, v.stillThere(so, s.Cavity.Caries())...)
		v.add(Kept, v.stillThere(so, s.Kept())...)
	} else {
		going := slices.ContainsFunc(so.Mesh.Labels, func(label uint16) bool { return label != 0 })
		for _, l := range finished.Layers {
			if !going && (l.Kind == Lesion || l.Kind == Filling) {
				v.Layers = append(v.Layers, l)
			}
		}
		for _, l := range s.Staying {
			if going {
				v.add(Filling, v.shadow(l)...)
			}
		}
		seen := v.gazing(at, towardsViewer(finished))
		v.add(Cavity, seen.opening()...)
		v.add(Bevel, seen.surfaces(isBevel)...)
		v.add(Floor, seen.surfaces(floorsOf(finished, s.Cavity.Kind))...)
	}
	v.order(finished)
	if section {
		goal = v.within(s.Prepared, goal)
	}
	v.add(Drawn, goal...)
	v.bound(finished.Bounds)
	if held != nil {
		v.addHeld(*held)
	}
	return v
}

// towardsViewer is the way to the eye: out of the tooth, whichever hand the view's axes are.
func towardsViewer(v View) r3.Vec {
	switch v.From {
	case "facial":
		return r3.Vec{Y: 1}
	case "lingual":
		return r3.Vec{Y: -1}
	}
	out := r3.Cross(v.Plane.U, v.Plane.V)
	if v.From == "" && out.Z < 0 { // along the bur
		return r3.Scale(-1, out)
	}
	if v.From == "mesial" && out.X < 0 || v.From == "distal" && out.X > 0 {
		return r3.Scale(-1, out)
	}
	return out
}

// floorsOf are the features that a view shades as floor.
func floorsOf(v View, kind cavity.Kind) func(uint16) bool {
	switch {
	case kind != cavity.Occlusal:
		return isFloor
	case v.From == "":
		return isOcclusalFloor
	}
	return isAxialFloor
}

// sectionOf cuts a tooth on the way by the view's plane.
func (v *View) sectionOf(so *measure.Prepared) {
	b := v.Bounds
	v.tissues(so.Model, solid.NewSheet(b.MinX, b.MinY, b.MaxX, b.MaxY, sectionStep), func(p r3.Vec, surface float64) float64 {
		if surface >= airBand {
			return surface
		}
		return max(surface, so.Workpiece.Distance(p))
	})
	// The uncut surface is there already.
	last := -1
	for n, l := range v.Layers {
		if l.Kind == Uncut {
			last = n
		}
	}
	v.Layers = slices.Delete(v.Layers, last, last+1)
}

// stillThere is where the view's plane cuts what has not been cut away of some solids.
func (v *View) stillThere(so *measure.Prepared, solids []solid.Tool) []solid.Polyline {
	var lines []solid.Polyline
	for _, l := range solids {
		lines = append(lines, v.cut(&remainder{l, so.Workpiece}, sectionStep)...)
	}
	return lines
}

// remainder is a solid as far as a workpiece still holds it.
type remainder struct {
	solid.Tool
	in *solid.Workpiece
}

// Distance bounds the signed distance (mm).
func (r *remainder) Distance(p r3.Vec) float64 {
	return math.Max(r.Tool.Distance(p), r.in.Distance(p))
}

// order puts layers where the finished view has them.
func (v *View) order(finished View) {
	place := func(l Layer) int {
		return slices.IndexFunc(finished.Layers, func(f Layer) bool { return f.Kind == l.Kind })
	}
	slices.SortStableFunc(v.Layers, func(a, b Layer) int { return place(a) - place(b) })
}

// bound fits a view to its tooth, without the room that labels took, and no further than
// it went.
func (v *View) bound(most Bounds) {
	const margin, above = 0.5, 2.5 // mm: above the tooth a head shows
	v.fit(margin)
	b := v.Bounds
	v.Bounds = Bounds{math.Max(b.MinX, most.MinX), math.Max(b.MinY, most.MinY), math.Min(b.MaxX, most.MaxX), b.MaxY + above}
	if v.From == "" && v.Section == "" { // along the bur
		v.Bounds.MaxY -= above
	}
}

// within are the parts of lines that run inside the uncut tooth.
func (v *View) within(so *measure.Prepared, lines []solid.Polyline) []solid.Polyline {
	const skin = 0.05 // mm
	var out []solid.Polyline
	for _, line := range lines {
		out = append(out, line.Runs(func(p solid.Point2) bool {
			return p.Y > v.Bounds.MinY+skin && so.Model.Surface.Distance(v.Plane.At(p.X, p.Y)) < -skin
		})...)
	}
	return out
}

// addHeld outlines an instrument: its head, and its neck and shank.
func (v *View) addHeld(h Held) {
	const shown = 14.0 // mm over the tip
	profile := h.Head.Profile()
	end := profile[len(profile)-1]
	neck := h.Head.Neck()
	v.add(Shank, append(
		v.outline(h.Pose, [][2]float64{{neck, end[1]}, {neck, instrument.ShankFrom - 1}}),
		v.outline(
			h.Pose,
			[][2]float64{{neck, instrument.ShankFrom - 1}, {instrument.ShankRadius, instrument.ShankFrom}, {instrument.ShankRadius, shown}},
		)...)...)
	v.add(Bur, v.outline(h.Pose, profile)...)
}

// outline is what is seen of a convex solid of revolution; nothing outside the view.
func (v *View) outline(pose solid.Pose, profile [][2]float64) []solid.Polyline {
	b := v.Bounds
	seen := solid.ClipConvex(v.hull(pose, profile), solid.Point2{X: b.MinX, Y: b.MinY}, solid.Point2{X: b.MaxX, Y: b.MaxY})
	if len(seen) < 3 {
		return nil
	}
	return []solid.Polyline{{Points: seen, Closed: true}}
}

// hull is the outline of a convex solid of revolution, radius over height, mm.
func (v *View) hull(pose solid.Pose, profile [][2]float64) []solid.Point2 {
	const around = 32
	a := r3.Unit(pose.Axis)
	u, w := solid.Across(a)
	var points []solid.Point2
	for _, ring := range profile {
		for n := range around {
			sin, cos := math.Sincos(2 * math.Pi * float64(n) / around)
			side := r3.Add(r3.Scale(ring[0]*cos, u), r3.Scale(ring[0]*sin, w))
			points = append(points, v.Plane.Project(r3.Add(r3.Add(pose.Tip, r3.Scale(ring[1], a)), side)))
		}
	}
	return solid.ConvexHull(points)
}
