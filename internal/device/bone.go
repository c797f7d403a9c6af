package device

import (
	"math"
	"math/rand/v2"

	"gonum.org/v1/gonum/spatial/r3"

	"obturon/core/anatomy"
	"obturon/core/solid"
)

// Healthy bone about the teeth, mm (periodontology and radiology conventions).
const (
	crestUnderNeck = 1.5  // from the cervical line down to the crest
	ligament       = 0.2  // width of the periodontal space
	laminaDura     = 0.28 // thickness of the dense layer round the roots
	plate          = 1.2  // bone facially and lingually of the roots
	crestEdge      = 0.35 // over which the crest grows dense
)

// bone is the alveolar process about a tooth and those beside it.
type bone struct {
	teeth    []rooted
	halfDeep float64 // mm it reaches to facial and lingual
	grain    *solid.Sheet
}

// rooted is one tooth in its bone.
type rooted struct {
	into        func(p r3.Vec) r3.Vec // the tooth's own frame
	outer       *anatomy.OuterSurface
	low, high   float64 // its extent along the arch at the neck, mm
	left, right float64 // height of the cervical line there
	deepest     float64 // the same facially and lingually
}

// newBone lays the bone; its grain comes from the seed.
func newBone(m *anatomy.Model, beside []Beside, seed uint64) *bone {
	b := &bone{halfDeep: m.Sizes.Buccolingual/2 + plate}
	identity := func(p r3.Vec) r3.Vec { return p }
	b.teeth = append(b.teeth, newRooted(m, identity, identity))
	for _, n := range beside {
		b.teeth = append(b.teeth, newRooted(n.Model, n.From, n.Into))
	}
	b.grain = grain(seed)
	return b
}

func newRooted(m *anatomy.Model, into, from func(r3.Vec) r3.Vec) rooted {
	t := rooted{into: into, outer: m.OuterSurface(), low: math.Inf(1), high: math.Inf(-1), deepest: math.Inf(1)}
	for _, own := range m.CervicalLine() {
		p := from(own)
		if p.X < t.low {
			t.low, t.left = p.X, p.Z
		}
		if p.X > t.high {
			t.high, t.right = p.X, p.Z
		}
		t.deepest = math.Min(t.deepest, p.Z)
	}
	return t
}

// crest is the height of the bone's crest over a place along the arch: level with
// the necks between two teeth, lower in front of and behind the roots.
func (b *bone) crest(x float64) float64 {
	const falls = 1.3 // mm from a neck's edge to the plates
	best, height := math.Inf(1), 0.0
	for _, t := range b.teeth {
		aside := math.Max(t.low-x, x-t.high) // negative on the tooth
		neck := t.left
		if x > (t.low+t.high)/2 {
			neck = t.right
		}
		if aside < best {
			share := solid.Smoothstep(-falls, 0, aside)
			best, height = aside, t.deepest+share*(neck-t.deepest)
		}
	}
	return height - crestUnderNeck
}

// at is the attenuation outside the teeth, 1/mm.
func (b *bone) at(p r3.Vec) float64 {
	if math.Abs(p.Y) > b.halfDeep {
		return 0
	}
	under := b.crest(p.X) - p.Z
	if under <= 0 {
		return 0
	}
	dense := math.Min(under/crestEdge, 1)
	from := math.Inf(1)
	for _, t := range b.teeth {
		from = math.Min(from, -t.outer.Depth(t.into(p)))
	}
	switch {
	case from < ligament:
		return 0
	case from < ligament+laminaDura:
		return dense * muLaminaDura
	default:
		return dense * muBone * (1 + b.grain.At(p.X, p.Z))
	}
}

// grain is the spongy bone's lattice as a share of its density, about nought.
func grain(seed uint64) *solid.Sheet {
	const half, step, strength = 16.0, 0.25, 0.9 // mm, mm
	random := rand.New(rand.NewPCG(seed, 23))
	sheet := solid.NewSheet(-half, -half, half, half, step)
	for n := range sheet.Values {
		sheet.Values[n] = float32(random.NormFloat64())
	}
	sheet = sheet.Blur(step)
	for n := range sheet.Values {
		sheet.Values[n] = float32(math.Min(math.Max(strength*float64(sheet.Values[n]), -strength), strength))
	}
	return sheet
}
