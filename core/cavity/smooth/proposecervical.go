package smooth

import (
	"math"

	"obturon/core/anatomy"
	"obturon/core/cavity"
	"obturon/core/lesion"
	"obturon/core/school"
)

// proposeCervical lays a Class V about its lesion.
func (r request) proposeCervical(d *Design) error {
	l, ok := lesionOf[*lesion.SmoothSurface](r)
	if !ok {
		return cavity.ErrOffSmoothSurface
	}
	width, height := l.Size()
	top, bottom := height/2+cavity.RoundedCover, -height/2-cavity.RoundedCover
	if contour, ok := r.contourOver(l.Frame, 0); ok && r.Upper == cavity.HeightOfContour {
		top = math.Max(top, contour)
	}
	// The margin stays over the gingiva wherever the lesion lets it, as periodontology asks;
	// hiding it just under the free gingiva is a wish.
	d.Width = up(math.Max(width+2*cavity.RoundedCover, 2*burRadius))
	d.Height = up(math.Max(top-bottom, 2*burRadius))
	d.IncisalShift = nearest((top + bottom) / 2)
	if r.HidesMargin {
		if over, ok := r.overGingiva(l, *d); ok && over > -hidden {
			bottom -= over + hidden
			d.Height = nearest(top - bottom)
			d.IncisalShift = nearest((top + bottom) / 2)
		}
	}
	d.Depth = up(r.cervicalDepth(l, *d))
	if r.Bonded() {
		d.LineAngleRadius = math.Max(d.LineAngleRadius, nearest(saucerRound*d.Depth))
		if r.enamelOver(l.Frame, top) > leastToBevel {
			d.BevelWidth, d.BevelAngle = r.Aim(school.NeckBevelWidth), longAngle
		}
		return nil
	}
	d.WallOpening = r.Aim(school.NeckWallOpen)
	d.GrooveDepth = r.Aim(school.NeckGrooves)
	return nil
}

const (
	hidden      = 0.2 // mm that a hidden margin lies under the free gingiva: within the crevice, clear of the attachment
	saucerRound = 0.6 // of the depth: how round a saucer's line angles are
	longAngle   = 30  // degrees of a long bevel to the surface
)

// contourOver is how far along V of a frame on the surface the height of contour lies
// over x; ok is false where the surface has none over the frame.
func (r request) contourOver(f anatomy.Frame, x float64) (y float64, ok bool) {
	const step, reach = 0.1, 4.5 // mm
	k := pocket{frame: f, outer: r.Model.OuterSurface()}
	before := math.NaN()
	for y = 0; y < reach; y += step {
		_, normal := k.surfaceOver(x, y)
		if normal.Z >= 0 { // it faces the biting side from here on
			if before < 0 {
				y -= step * normal.Z / (normal.Z - before)
			}
			return y, true
		}
		before = normal.Z
	}
	return 0, false
}

// cervicalDepth is the axial depth of a Class V: what the school asks for, and past
// the junction by as much.
func (r request) cervicalDepth(l *lesion.SmoothSurface, d Design) float64 {
	depth := math.Max(r.Aim(school.NeckDepth), leastDepth)
	if into := r.Aim(school.NeckIntoDentin); into > 0 {
		depth = math.Max(depth, r.thickestEnamel(l.Frame, d)+into)
	}
	if r.Aim(school.NeckDepth) == 0 { // led by the lesion
		_, deepest := l.Frame.Origin, l.Deepest()
		depth = math.Max(depth, r.Model.OuterSurface().Depth(deepest))
	}
	return depth
}

// leastToBevel (mm) is how thick enamel is at the upper edge of a Class V at the least, where it
// is bevelled: near the cervical line it thins out, and on the root there is none.
const leastToBevel = 0.2

// enamelOver is how thick (mm) enamel is just past an upper edge that lies at y in a frame.
func (r request) enamelOver(f anatomy.Frame, y float64) float64 {
	const past = 0.3 // mm
	k := pocket{frame: f, outer: r.Model.OuterSurface()}
	foot, _ := k.surfaceOver(0, y+past)
	return r.Model.Dentin().Distance(foot)
}

// thickestEnamel under the outline of a design.
func (r request) thickestEnamel(f anatomy.Frame, d Design) float64 {
	const step, exponent = 0.3, 2.8 // mm; of the broadest outline
	k := pocket{frame: f, outer: r.Model.OuterSurface()}
	thickest := 0.0
	for x := -d.Width / 2; x <= d.Width/2; x += step {
		for y := -d.Height / 2; y <= d.Height/2; y += step {
			if math.Pow(math.Abs(2*x/d.Width), exponent)+math.Pow(math.Abs(2*y/d.Height), exponent) > 1 {
				continue
			}
			foot, _ := k.surfaceOver(x, y+d.IncisalShift)
			thickest = math.Max(thickest, r.Model.Dentin().Distance(foot))
		}
	}
	return thickest
}

// overGingiva is how far (mm) the lower edge of a design's outline stays over the
// free gingival margin, where it comes lowest.
func (r request) overGingiva(l *lesion.SmoothSurface, d Design) (mm float64, ok bool) {
	const middle = 0.25 // of the width, to either side, that counts
	k := pocket{frame: l.Frame, outer: r.Model.OuterSurface(), line: r.outline(l.Frame, d)}
	gingiva := r.Model.GingivalLine(r.Gingiva)
	mm = math.Inf(1)
	for _, at := range k.line.Points {
		if at.Y > 0 || math.Abs(at.X) > middle*d.Width {
			continue
		}
		foot, _ := k.surfaceOver(at.X, at.Y+d.IncisalShift)
		if level, near := anatomy.LevelBeside(gingiva, foot); near {
			mm, ok = math.Min(mm, foot.Z-level), true
		}
	}
	return mm, ok
}

// proposePit opens a pit of a surface.
func (r request) proposePit(d *Design) error {
	l, ok := lesionOf[*lesion.SmoothSurface](r)
	if !ok {
		return cavity.ErrOffSmoothSurface
	}
	width, height := l.Size()
	d.Width = up(math.Max(width+2*cavity.RoundedCover, r.Aim(school.PitWidth)))
	d.Height = up(math.Max(height+2*cavity.RoundedCover, r.Aim(school.PitWidth)))
	d.Depth = r.Aim(school.PitDepth)
	if d.Depth == 0 {
		d.Depth = up(math.Max(r.Model.OuterSurface().Depth(l.Deepest()), leastDepth))
	}
	if r.Bonded() {
		d.BevelWidth, d.BevelAngle = r.Aim(school.FinishBevelWidth), cavity.UsualBevelAngle
	}
	return nil
}
