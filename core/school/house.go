package school

import (
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"regexp"
	"slices"
	"strconv"
	"strings"
)

// House rules are a practice's own copy of a school. Their id starts with
// "house-"; a version may follow after a dot, without which the newest holds.
var houseID = regexp.MustCompile(`^house-[a-z0-9]+(-[a-z0-9]+)*(\.[1-9][0-9]{0,5})?$`)

// IsHouse reports an id of house rules.
func IsHouse(id string) bool { return houseID.MatchString(id) }

// SplitHouse takes the version off an id of house rules; 0 means the newest.
func SplitHouse(id string) (slug string, version int) {
	slug, after, found := strings.Cut(id, ".")
	if found {
		version, _ = strconv.Atoi(after) // the id has been checked
	}
	return slug, version
}

// HouseID names the house rules of a name: "Halvarra bench" becomes
// "house-halvarra-bench". It is empty where no letter or figure is left.
func HouseID(name string) string {
	const longest = 40
	words := strings.FieldsFunc(strings.ToLower(name), func(r rune) bool { return (r < 'a' || r > 'z') && (r < '0' || r > '9') })
	slug := strings.Join(words, "-")
	if len(slug) > longest {
		slug = strings.TrimRight(slug[:longest], "-")
	}
	if slug == "" {
		return ""
	}
	return "house-" + slug
}

// Fingerprint tells schools apart by all they hold.
func (s *School) Fingerprint() string {
	data, err := json.Marshal(s)
	if err != nil {
		return err.Error()
	}
	sum := sha256.Sum256(data)
	return hex.EncodeToString(sum[:])
}

// Copy makes house rules from a school, to be changed.
func (s *School) Copy(id, name string) *School {
	own := *s
	own.ID, own.Version, own.Name = id, "1", name
	own.Title = name + ", after " + s.Name
	own.Criteria = append([]Criterion{}, s.Criteria...)
	return &own
}

// Knowing gives house rules that also know the criteria, and the teeth and materials of
// known ones, which came into their base after they were kept: they do not ask for them
// until someone has them apply. What the rules say already comes first, as before.
func (s *School) Knowing(base *School) *School {
	own := *s
	own.Criteria = slices.Clone(s.Criteria)
	no := false
	for _, c := range base.Criteria {
		if s.speaksOf(c) {
			continue
		}
		c.Applies = &no
		c.Why = "Not asked for: these rules were kept before it came. " + c.Why
		own.Criteria = append(own.Criteria, c)
	}
	return &own
}
