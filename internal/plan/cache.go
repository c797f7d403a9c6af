package plan

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"fmt"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/notation"
	"obturon/core/pipeline"
)

// A tooth's shape holds some 8 MB at 0.1 mm, another age of it half of one, the
// proposals of a case a tenth of one beside its tooth.
const (
	shapesKept    = 40
	agesKept      = 64
	proposalsKept = 128
)

// toothCache remembers modelled teeth: each shape once, and the pulps of the
// ages asked for. Left and right share one model.
type toothCache struct {
	shapes *lru.Cache[string, *anatomy.Model]
	aged   *lru.Cache[string, *anatomy.Model]
	flight singleflight.Group
}

func newToothCache() *toothCache {
	return &toothCache{shapes: newCache[*anatomy.Model](shapesKept), aged: newCache[*anatomy.Model](agesKept)}
}

// newCache makes a cache of a constant size; only a size below 1 fails.
func newCache[V any](size int) *lru.Cache[string, V] {
	cache, err := lru.New[string, V](size)
	if err != nil {
		panic(err)
	}
	return cache
}

func (c *toothCache) get(t notation.Tooth, measured anatomy.MeasuredSizes, ageYears, grid float64) (*anatomy.Model, error) {
	shapeAge := anatomy.ShapeAge(ageYears)
	shape := fmt.Sprintf("%v %v %d %v %.3f %v", t.Upper(), t.Primary(), t.Position(), measured, grid, shapeAge)
	m, err := c.remember(c.aged, fmt.Sprintf("%s %v", shape, ageYears), func() (*anatomy.Model, error) {
		base, err := c.remember(c.shapes, shape, func() (*anatomy.Model, error) { return anatomy.Build(t, measured, shapeAge, grid) })
		if err != nil {
			return nil, err
		}
		return base.WithAge(ageYears)
	})
	if err != nil {
		return nil, err
	}
	return m.For(t), nil
}

// remember returns the cached model, or makes it once however many ask.
func (c *toothCache) remember(
	cache *lru.Cache[string, *anatomy.Model], key string, build func() (*anatomy.Model, error),
) (*anatomy.Model, error) {
	if m, ok := cache.Get(key); ok {
		return m, nil
	}
	built, err, _ := c.flight.Do(key, func() (any, error) {
		m, err := build()
		if err == nil {
			cache.Add(key, m)
		}
		return m, err
	})
	if err != nil {
		return nil, err
	}
	return built.(*anatomy.Model), nil
}

// remembered is what a cache knows under a key, or what making it gives; errors are not remembered.
func remembered[V any](cache *lru.Cache[string, V], key string, build func() (V, error)) (V, error) {
	if known, ok := cache.Get(key); ok {
		return known, nil
	}
	built, err := build()
	if err == nil {
		cache.Add(key, built)
	}
	return built, err
}

// proposalKey identifies what a case's proposals are made from: all but the patient's
// code and the values set by hand. House rules count with all they hold, since the
// same id may mean a newer version, or another practice's.
func proposalKey(c *intake.Case, grid float64) string {
	own := *c
	own.Patient.Code, own.Overrides, own.Rules, own.Kit = "", nil, nil, nil
	data, err := json.Marshal(own)
	if err != nil {
		data = []byte(err.Error())
	}
	if c.Rules != nil {
		return fmt.Sprintf("%.3f %s%s", grid, data, c.Rules.Fingerprint())
	}
	return fmt.Sprintf("%.3f %s", grid, data)
}

// caseAndKit identifies all that a plan or a proof is made from: the case with the values set by
// hand, and the kit.
func caseAndKit(c *intake.Case, grid float64) string {
	return fmt.Sprintf("%s %v %s", proposalKey(c, grid), c.Overrides, c.Kit.Fingerprint())
}

// ProofKey tells a case, its school's rules and its kit from all others that a proof may
// differ for, and this version of the core from others.
func ProofKey(c *intake.Case, grid float64) string {
	sum := sha256.Sum256([]byte(pipeline.CoreVersion + " " + caseAndKit(c, grid)))
	return hex.EncodeToString(sum[:])
}
