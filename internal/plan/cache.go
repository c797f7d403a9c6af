package plan

import (
	"fmt"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"obturon/core/anatomy"
	"obturon/core/notation"
	"obturon/core/prep"
)

// A tooth model holds some 20 MB at 0.1 mm, a proposal next to nothing.
const (
	teethKept     = 24
	proposalsKept = 512
)

// toothCache remembers modelled teeth. Left and right share one model.
type toothCache struct {
	models *lru.Cache[string, *anatomy.Model]
	flight singleflight.Group
}

func newToothCache() *toothCache {
	models, err := lru.New[string, *anatomy.Model](teethKept)
	if err != nil {
		panic(err) // only a size below 1 fails
	}
	return &toothCache{models: models}
}

func (c *toothCache) get(t notation.Tooth, ageYears, grid float64) (*anatomy.Model, error) {
	kind := fmt.Sprintf("%v %v %d %v %.3f", t.Upper(), t.Primary(), t.Position(), ageYears, grid)
	if m, ok := c.models.Get(kind); ok {
		return m.For(t), nil
	}
	built, err, _ := c.flight.Do(kind, func() (any, error) {
		m, err := anatomy.Build(t, ageYears, grid)
		if err == nil {
			c.models.Add(kind, m)
		}
		return m, err
	})
	if err != nil {
		return nil, err
	}
	return built.(*anatomy.Model).For(t), nil
}

// proposalCache remembers what was proposed for a case, so that a drag of one
// dimension does not propose anew.
type proposalCache struct {
	designs *lru.Cache[string, prep.ClassI]
}

func newProposalCache() *proposalCache {
	designs, err := lru.New[string, prep.ClassI](proposalsKept)
	if err != nil {
		panic(err)
	}
	return &proposalCache{designs}
}

func (c *proposalCache) get(caseKey string, grid float64, r prep.Request) (prep.ClassI, error) {
	key := fmt.Sprintf("%.3f %s", grid, caseKey)
	if d, ok := c.designs.Get(key); ok {
		return d, nil
	}
	d, err := prep.Propose(r)
	if err == nil {
		c.designs.Add(key, d)
	}
	return d, err
}
