// Package plan holds the use cases: it reads a case, runs the core for it and
// returns the plan document, the drawing and the solids.
package plan

import (
	"encoding/json"
	"fmt"
	"slices"
	"sort"
	"strings"

	"obturon/core/anatomy"
	"obturon/core/face"
	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/prep"
	"obturon/core/school"
	"obturon/core/solid"
)

// CaseSchema names the version of case documents.
const CaseSchema = "obturon.case/1"

// Case is what a plan is made from.
type Case struct {
	Schema   string         `json:"schema"`
	Tooth    notation.Tooth `json:"tooth"`
	Patient  Patient        `json:"patient"`
	Findings []Finding      `json:"findings"`
	// Contacts are the occlusal contacts marked before isolation.
	Contacts []Contact `json:"occlusal_contacts,omitempty"`
	// Missing neighbours, "mesial" or "distal".
	Missing []string `json:"missing_neighbours,omitempty"`
	// Enamel is how much light it lets through: translucent or opaque.
	Enamel string `json:"enamel,omitempty"`
	// Gingiva is where its free margin was seen; nil takes that of the age.
	Gingiva   *Gingiva           `json:"gingiva,omitempty"`
	Choice    *Choice            `json:"choice,omitempty"`
	Overrides map[string]float64 `json:"overrides,omitempty"`

	house *school.School // the practice's rules that the choice names
}

// House is the id of the house rules that the case is planned under, "" if none.
func (c *Case) House() string {
	if c.Choice == nil || !school.IsHouse(c.Choice.School) {
		return ""
	}
	return c.Choice.School
}

// UseHouse gives the case the house rules that its choice names.
func (c *Case) UseHouse(s *school.School) { c.house = s }

// schoolOf finds the school of a choice.
func (c *Case) schoolOf(choice Choice) (*school.School, error) {
	if !school.IsHouse(choice.School) {
		return school.Get(choice.School)
	}
	if c.house == nil {
		return nil, Faults{{"$.choice.school", fmt.Sprintf("%s are house rules of a practice, which are not known here: choose one of %s", choice.School, strings.Join(school.IDs, ", "))}}
	}
	return c.house, nil
}

// Patient is known by a code and what bears on the plan, never by name.
type Patient struct {
	Code               string  `json:"code,omitempty"`
	AgeYears           float64 `json:"age_years"`
	PregnantOrNursing  bool    `json:"pregnant_or_nursing,omitempty"`
	KidneyDisease      bool    `json:"kidney_disease,omitempty"`
	MercurySensitivity bool    `json:"mercury_sensitivity,omitempty"`
	CariesRisk         string  `json:"caries_risk,omitempty"`
	Isolation          string  `json:"isolation,omitempty"`
	Parafunction       bool    `json:"parafunction,omitempty"` // grinding or clenching
	VisibleZone        bool    `json:"visible_zone,omitempty"` // the tooth shows when speaking or smiling
}

// Finding is one thing seen on the tooth; sizes of 0 take the default of the depth.
type Finding struct {
	Kind   lesion.Kind  `json:"kind"`
	Site   lesion.Site  `json:"site"`
	Depth  lesion.Depth `json:"depth"`
	Height float64      `json:"height_mm,omitempty"`
	Width  float64      `json:"width_mm,omitempty"`
	Length float64      `json:"length_mm,omitempty"`
	// OverNeck is the height of a cervical lesion's middle over the cervical line.
	OverNeck *float64 `json:"over_neck_mm,omitempty"`
	// Opens is the face an anterior proximal lesion shows on, buccal or lingual.
	Opens lesion.Site `json:"opens,omitempty"`
	// Stays tells of an old filling that is sound but for its margin: it is not
	// replaced, its margin is sealed.
	Stays bool `json:"stays,omitempty"`
}

// Contact is where an opposing cusp touches: mm towards mesial and facial from
// the middle of the occlusal table, as the plan view shows it.
type Contact struct {
	Mesial float64 `json:"mesial_mm"`
	Facial float64 `json:"facial_mm"`
}

// Gingiva is how far the free gingival margin lies over the cervical line, mm;
// negative where it has receded.
type Gingiva struct {
	Facial  float64 `json:"facial_mm"`
	Lingual float64 `json:"lingual_mm"`
	Papilla float64 `json:"papilla_mm"`
}

// Enamel as it lets light through.
const (
	Translucent = "translucent"
	Opaque      = "opaque"
)

// Choice is what the dentist decided.
type Choice struct {
	Material string `json:"material,omitempty"`
	School   string `json:"school,omitempty"`
	Form     string `json:"form,omitempty"`   // conventional or slot, of a Class II
	Finish   string `json:"finish,omitempty"` // style of the enamel margin, of a Class III or IV
	Lock     bool   `json:"lock,omitempty"`   // a lingual lock at a broken corner
	Reason   string `json:"reason,omitempty"` // the dentist's own, kept with the plan
	// Treatment "restore" cuts lesions that would otherwise be sealed or watched.
	Treatment string `json:"treatment,omitempty"`
}

// Materials a case may choose.
var Materials = []string{"amalgam", "composite"}

// ReadCase reads and checks a case document. The error, if any, is Faults with
// every fault found.
func ReadCase(data []byte) (*Case, error) {
	var faults Faults
	root, ok := readObject(data, &faults)
	if !ok {
		return nil, faults
	}
	c := &Case{Schema: root.text("schema", true)}
	if c.Schema != "" && c.Schema != CaseSchema {
		root.fault("schema", "%q is not read by this version: it reads %s", c.Schema, CaseSchema)
	}
	if text := root.text("tooth", true); text != "" {
		t, err := notation.ParseISO(text)
		if err != nil {
			root.fault("tooth", "%v", err)
		}
		c.Tooth = t
	}
	if o, ok := root.object("patient", true); ok {
		c.Patient = readPatient(o)
	}
	for _, o := range root.list("findings") {
		c.Findings = append(c.Findings, readFinding(o, c.Tooth))
	}
	for _, o := range root.optionalList("occlusal_contacts") {
		c.Contacts = append(c.Contacts, readContact(o))
	}
	c.Missing = root.texts("missing_neighbours", "mesial", "distal")
	c.Enamel = root.text("enamel", false, Translucent, Opaque)
	if o, ok := root.object("gingiva", false); ok {
		c.Gingiva = readGingiva(o)
	}
	if o, ok := root.object("choice", false); ok {
		c.Choice = &Choice{
			Material: o.text("material", false, Materials...), School: readSchool(o),
			Form: o.text("form", false, prep.Forms...), Finish: o.text("finish", false, face.Styles...), Lock: o.flag("lock"), Reason: o.text("reason", false), Treatment: o.text("treatment", false, "restore"),
		}
		o.rest()
	}
	if o, ok := root.object("overrides", false); ok {
		c.Overrides = readOverrides(o)
	}
	root.rest()
	if len(faults) > 0 {
		return nil, faults
	}
	return c, nil
}

func readPatient(o object) Patient {
	p := Patient{Code: o.text("code", false)}
	if age, ok := o.number("age_years", true, "give the age in years, such as 34"); ok {
		p.AgeYears = age
		if age < 0 || age > 120 {
			o.fault("age_years", "%v is no age: give years from 0 to 120", age)
		}
	}
	p.PregnantOrNursing = o.flag("pregnant_or_nursing")
	p.KidneyDisease = o.flag("kidney_disease")
	p.MercurySensitivity = o.flag("mercury_sensitivity")
	p.Parafunction = o.flag("parafunction")
	p.VisibleZone = o.flag("visible_zone")
	p.CariesRisk = o.text("caries_risk", false, "low", "moderate", "high")
	p.Isolation = o.text("isolation", false, "secure", "doubtful", "none")
	o.rest()
	return p
}

func readFinding(o object, t notation.Tooth) Finding {
	f := Finding{
		Kind:  lesion.Kind(o.text("kind", true)),
		Site:  lesion.Site(o.text("site", true)),
		Depth: lesion.Depth(o.text("depth", true)),
	}
	f.Height, _ = o.number("height_mm", false, "give millimetres")
	f.Width, _ = o.number("width_mm", false, "give millimetres")
	f.Length, _ = o.number("length_mm", false, "give millimetres")
	if over, ok := o.number("over_neck_mm", false, "give millimetres over the cervical line, negative on the root"); ok {
		f.OverNeck = &over
	}
	f.Opens = lesion.Site(o.text("opens", false))
	if f.Stays = o.flag("stays"); f.Stays && f.Kind != lesion.OldRestoration {
		o.fault("stays", "only an old filling can stay: leave it out here")
	}
	o.rest()
	if t.IsZero() {
		return f // without a tooth nothing can be said about the site
	}
	for _, fault := range lesion.Validate(f.core(), t) {
		if missing := o.fields[fault.Field] == nil && (fault.Field == "kind" || fault.Field == "site" || fault.Field == "depth"); !missing {
			o.fault(fault.Field, "%s", fault.Message)
		}
	}
	return f
}

// readSchool reads a school's id: one of ours, or a practice's own.
func readSchool(o object) string {
	if v, isText := o.fields["school"].(string); isText && school.IsHouse(v) {
		return o.text("school", false)
	}
	return o.text("school", false, school.IDs...)
}

func readContact(o object) Contact {
	const furthest = 8 // mm, beyond any crown
	c := Contact{}
	for _, f := range []struct {
		name string
		to   *float64
	}{{"mesial_mm", &c.Mesial}, {"facial_mm", &c.Facial}} {
		v, ok := o.number(f.name, true, "give millimetres from the middle of the occlusal table")
		if ok && (v < -furthest || v > furthest) {
			o.fault(f.name, "%v mm is off the tooth: give -%d to %d", v, furthest, furthest)
		}
		*f.to = v
	}
	o.rest()
	return c
}

func readGingiva(o object) *Gingiva {
	const furthest = 6 // mm, beyond any healthy or receded margin
	g := &Gingiva{}
	for _, f := range []struct {
		name string
		to   *float64
	}{{"facial_mm", &g.Facial}, {"lingual_mm", &g.Lingual}, {"papilla_mm", &g.Papilla}} {
		v, ok := o.number(f.name, true, "give millimetres over the cervical line, negative where it has receded")
		if ok && (v < -furthest || v > furthest) {
			o.fault(f.name, "%v mm is no gingival margin: give -%d to %d", v, furthest, furthest)
		}
		*f.to = v
	}
	o.rest()
	return g
}

// gingiva is the free margin as seen, or as the age has it.
func (c *Case) gingiva() anatomy.Gingiva {
	if c.Gingiva == nil {
		return anatomy.GingivaAt(c.Patient.AgeYears)
	}
	return anatomy.Gingiva{Facial: c.Gingiva.Facial, Lingual: c.Gingiva.Lingual, Papilla: c.Gingiva.Papilla}
}

func readOverrides(o object) map[string]float64 {
	overrides := map[string]float64{}
	var ids []string
	for id := range o.fields {
		ids = append(ids, id)
	}
	sort.Strings(ids)
	for _, id := range ids {
		v, ok := o.number(id, true, "give millimetres or degrees")
		if !ok {
			continue
		}
		check := prep.CheckOverride
		if face.Owns(id) {
			check = face.CheckOverride
		}
		if problem := check(id, v); problem != "" {
			o.fault(id, "%s", problem)
		}
		overrides[id] = v
	}
	return overrides
}

func (f Finding) core() lesion.Finding {
	return lesion.Finding{Kind: f.Kind, Site: f.Site, Depth: f.Depth, Height: f.Height, Width: f.Width, Length: f.Length, OverNeck: f.OverNeck, Opens: f.Opens}
}

// key identifies the case for caches; overrides can be left out.
func (c *Case) key(withOverrides bool) string {
	copied := *c
	copied.Patient.Code = ""
	if !withOverrides {
		copied.Overrides = nil
	}
	data, err := json.Marshal(copied) // maps marshal in key order
	if err != nil {
		return fmt.Sprint(err)
	}
	if c.house != nil { // the same id may mean a newer version, or another practice's rules
		return string(data) + c.house.Fingerprint()
	}
	return string(data)
}

// coreFindings turns the findings into the core's: those that a cavity is planned
// for. Old fillings that stay are none of them.
func (c *Case) coreFindings() []lesion.Finding {
	list := make([]lesion.Finding, 0, len(c.Findings))
	for _, f := range c.Findings {
		if !f.Stays {
			list = append(list, f.core())
		}
	}
	return slices.Clip(list)
}

// staying are the old fillings that are not replaced.
func (c *Case) staying() []lesion.Finding {
	var list []lesion.Finding
	for _, f := range c.Findings {
		if f.Stays {
			list = append(list, f.core())
		}
	}
	return list
}

// anyInDentin reports a finding that has reached dentin.
func (c *Case) anyInDentin() bool {
	return slices.ContainsFunc(c.Findings, func(f Finding) bool { return f.Kind != lesion.Crack && !f.Stays && f.Depth.InDentin() })
}

// contacts are the marked contacts on the occlusal table.
func (c *Case) contacts() []solid.Point2 {
	var points []solid.Point2
	for _, at := range c.Contacts {
		points = append(points, solid.Point2{X: at.Mesial, Y: at.Facial})
	}
	return points
}
