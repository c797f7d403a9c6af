package solid

import "math"

// Revolution is a convex solid of revolution, such as a bur's head, given by
// its half profile: rho is the distance from the axis, z the height above the
// tip along the axis, mm.
type Revolution interface {
	// Profile is the signed distance at (rho, z) with its derivatives.
	Profile(rho, z float64) (d, dRho, dZ float64)
	// Length and Radius bound the solid: 0 <= z <= Length, rho <= Radius.
	Length() float64
	Radius() float64
}

// Ball is a round bur's head.
type Ball struct{ R float64 }

// Profile is the distance to the ball resting on the tip.
func (b Ball) Profile(rho, z float64) (d, dRho, dZ float64) {
	return circle(rho, z-b.R, b.R)
}

// Length of the head, mm.
func (b Ball) Length() float64 { return 2 * b.R }

// Radius is the widest radius, mm.
func (b Ball) Radius() float64 { return b.R }

// circle is the distance to a circle of radius r about the profile's axis.
func circle(rho, z, r float64) (d, dRho, dZ float64) {
	l := math.Sqrt(rho*rho + z*z)
	if l < 1e-12 {
		return -r, 0, 1
	}
	return l - r, rho / l, z / l
}

// Pear is the hull of two balls.
type Pear struct{ tip, neck, head, between, a, b float64 }

// NewPear makes the hull of a tip of radius tip and a neck of radius neck that
// ends head above the tip, mm.
func NewPear(tip, neck, head float64) Pear {
	p := Pear{tip: tip, neck: neck, head: head, between: head - tip - neck}
	p.b = (tip - neck) / p.between
	p.a = math.Sqrt(1 - p.b*p.b)
	return p
}

// Profile is the distance to the hull, exact outside.
func (p Pear) Profile(rho, z float64) (d, dRho, dZ float64) {
	z -= p.tip
	switch k := p.a*z - p.b*rho; {
	case k < 0:
		return circle(rho, z, p.tip)
	case k > p.a*p.between:
		return circle(rho, z-p.between, p.neck)
	default:
		return p.a*rho + p.b*z - p.tip, p.a, p.b
	}
}

// Length of the head, mm.
func (p Pear) Length() float64 { return p.head }

// Radius is the widest radius, mm.
func (p Pear) Radius() float64 { return max(p.tip, p.neck) }

// Frustum is a flat-ended head: a cylinder, a taper or an inverted cone.
type Frustum struct {
	tip, shank, head, edge float64
	r0, r1, z0, z1         float64 // the cone with every face moved in by edge
	nr, nz, length         float64 // outward normal of its side, and its length
}

// NewFrustum makes a cone from radius tip at the end to shank at its length
// head, with edges rounded by edge, mm.
func NewFrustum(tip, shank, head, edge float64) Frustum {
	f := Frustum{tip: tip, shank: shank, head: head, edge: edge, z0: edge, z1: head - edge}
	slope := (shank - tip) / head
	slant := edge * math.Sqrt(1+slope*slope)
	f.r0, f.r1 = tip+slope*f.z0-slant, tip+slope*f.z1-slant
	f.length = math.Hypot(f.r1-f.r0, f.z1-f.z0)
	f.nr, f.nz = (f.z1-f.z0)/f.length, -(f.r1-f.r0)/f.length
	return f
}

// Profile is the distance to the shrunken cone less the edge's radius, exact
// outside.
func (f Frustum) Profile(rho, z float64) (d, dRho, dZ float64) {
	side := (rho-f.r0)*f.nr + (z-f.z0)*f.nz
	along := (z-f.z0)*f.nr - (rho-f.r0)*f.nz
	below, above := f.z0-z, z-f.z1
	switch {
	case side <= 0 && below <= 0 && above <= 0: // inside: the nearest face
		switch {
		case side >= below && side >= above:
			return side - f.edge, f.nr, f.nz
		case below >= above:
			return below - f.edge, 0, -1
		default:
			return above - f.edge, 0, 1
		}
	case below > 0 && rho <= f.r0:
		return below - f.edge, 0, -1
	case above > 0 && rho <= f.r1:
		return above - f.edge, 0, 1
	case along < 0:
		return corner(rho, z, f.r0, f.z0, f.edge)
	case along > f.length:
		return corner(rho, z, f.r1, f.z1, f.edge)
	default:
		return side - f.edge, f.nr, f.nz
	}
}

func corner(rho, z, r, at, edge float64) (d, dRho, dZ float64) {
	l := math.Sqrt((rho-r)*(rho-r) + (z-at)*(z-at))
	if l < 1e-12 {
		return -edge, 1, 0
	}
	return l - edge, (rho - r) / l, (z - at) / l
}

// Length of the head, mm.
func (f Frustum) Length() float64 { return f.head }

// Radius is the widest radius, mm.
func (f Frustum) Radius() float64 { return max(f.tip, f.shank) }
