package plan

import (
	"encoding/json"
	"fmt"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"obturon/core/anatomy"
	"obturon/core/intake"
	"obturon/core/notation"
)

// A tooth's shape holds some 8 MB at 0.1 mm, another age of it half of one, the
// basis of a case a tenth of one beside its tooth.
const (
	shapesKept = 40
	agesKept   = 64
	basesKept  = 128
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
func (c *toothCache) remember(cache *lru.Cache[string, *anatomy.Model], key string, build func() (*anatomy.Model, error)) (*anatomy.Model, error) {
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

// caseKey identifies what a case's proposals are made from: all but the patient's
// code and the values set by hand. House rules count with all they hold, since the
// same id may mean a newer version, or another practice's.
func caseKey(c *intake.Case) string {
	own := *c
	own.Patient.Code, own.Overrides, own.Rules, own.Kit = "", nil, nil, nil
	data, err := json.Marshal(own)
	if err != nil {
		return fmt.Sprint(err)
	}
	if c.Rules != nil {
		return string(data) + c.Rules.Fingerprint()
	}
	return string(data)
}

// basisCache remembers the basis of a case, so that a drag of one dimension
// does not propose anew.
type basisCache struct{ bases *lru.Cache[string, basis] }

func newBasisCache() *basisCache { return &basisCache{newCache[basis](basesKept)} }

// peek is the basis of a case if it is known.
func (c *basisCache) peek(caseKey string, grid float64) (basis, bool) {
	return c.bases.Get(basisKey(caseKey, grid))
}

func basisKey(caseKey string, grid float64) string { return fmt.Sprintf("%.3f %s", grid, caseKey) }

func (c *basisCache) get(caseKey string, grid float64, build func() (basis, error)) (basis, error) {
	key := basisKey(caseKey, grid)
	if b, ok := c.bases.Get(key); ok {
		return b, nil
	}
	b, err := build()
	if err == nil {
		c.bases.Add(key, b)
	}
	return b, err
}
