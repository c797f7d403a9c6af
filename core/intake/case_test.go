package intake

import (
	"strings"
	"testing"

	"obturon/core/lesion"
	"obturon/core/notation"
	"obturon/core/school"
)

func molar(findings ...lesion.Finding) *Case {
	return &Case{Tooth: notation.MustParse("47"), Patient: Patient{Code: "HV-031", AgeYears: 41}, Findings: findings}
}

var (
	fissure = lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: lesion.OuterDentin}
	shallow = lesion.Finding{Kind: lesion.FissureCaries, Site: lesion.Central, Depth: "inner_enamel"}
	filling = lesion.Finding{Kind: lesion.OldRestoration, Site: lesion.Central, Depth: lesion.OuterDentin}
	crack   = lesion.Finding{Kind: lesion.Crack, Site: lesion.Mesial, Depth: lesion.OuterDentin}
)

func TestEveryFaultOfACaseIsNamed(t *testing.T) {
	for _, c := range []struct {
		name string
		spot func(*Case)
		want []string // "path: word of the message"
	}{
		{"sound", func(*Case) {}, nil},
		{"a site the tooth has not", func(c *Case) { c.Findings[0].Site = lesion.MesialIncisalAngle }, []string{"$.findings[0].site: "}},
		{"a value that cannot be built", func(c *Case) { c.Overrides = map[string]float64{"isthmus_width": 12} }, []string{"$.overrides.isthmus_width: 12 mm is not buildable"}},
		{"a dimension there is not", func(c *Case) { c.Overrides = map[string]float64{"depth": 1} }, []string{`$.overrides.depth: "depth" is no dimension`}},
		{"two at once, by name", func(c *Case) {
			c.Overrides = map[string]float64{"zeal": 1, "pulpal_depth": -4}
		}, []string{"$.overrides.pulpal_depth: ", "$.overrides.zeal: "}},
	} {
		dental := molar(fissure)
		c.spot(dental)
		faults := dental.Check()
		if len(faults) != len(c.want) {
			t.Errorf("%s: %v", c.name, faults)
			continue
		}
		for n, want := range c.want {
			if line := faults[n].Path + ": " + faults[n].Message; !strings.HasPrefix(line, want) {
				t.Errorf("%s: %q, want %q", c.name, line, want)
			}
		}
	}
}

func TestWhatIsCutAndWhatStays(t *testing.T) {
	c := molar(fissure, filling, crack)
	if cut, stay := c.ToCut(), c.Staying(); len(cut) != 2 || len(stay) != 1 || stay[0].Kind != lesion.OldRestoration {
		t.Errorf("to cut %v, staying %v", cut, stay)
	}
	if len(c.Findings) != 3 || c.Findings[1].Kind != lesion.OldRestoration {
		t.Errorf("asking changed the findings: %v", c.Findings)
	}
	for _, k := range []struct {
		name     string
		findings []lesion.Finding
		want     bool
	}{
		{"caries in dentin", []lesion.Finding{shallow, fissure}, true},
		{"caries in enamel", []lesion.Finding{shallow}, false},
		{"a crack", []lesion.Finding{crack}, false},
		{"a filling that stays", []lesion.Finding{filling}, false},
	} {
		if got := molar(k.findings...).AnyInDentin(); got != k.want {
			t.Errorf("%s: in dentin %v", k.name, got)
		}
	}
}

func TestHouseRulesComeWithTheCase(t *testing.T) {
	c := molar(fissure)
	if s, err := c.SchoolOf(Choice{School: "adhesive"}); err != nil || s.ID != "adhesive" || c.House() != "" {
		t.Errorf("a shipped school: %v", err)
	}
	c.Choice.School = "house-bench.2"
	if _, err := c.SchoolOf(c.Choice); err == nil || !strings.Contains(err.Error(), "$.choice.school") || c.House() != "house-bench.2" {
		t.Errorf("rules that the case does not carry: %v", err)
	}
	c.Rules = &school.School{ID: "house-bench"}
	if s, err := c.SchoolOf(c.Choice); err != nil || s != c.Rules {
		t.Errorf("rules that it carries: %v", err)
	}
	if _, err := c.SchoolOf(Choice{School: "river"}); err == nil {
		t.Error("a school that there is not is found")
	}
}

func TestGingivaIsThatSeenOrThatOfTheAge(t *testing.T) {
	c := molar(fissure)
	young := c.GingivaSeen()
	c.Patient.AgeYears = 75
	if old := c.GingivaSeen(); old.Facial >= young.Facial {
		t.Errorf("at 75 it lies at %.2f, at 41 at %.2f", old.Facial, young.Facial)
	}
	seen := c.GingivaSeen()
	seen.Facial = -2
	c.Gingiva = &seen
	if c.GingivaSeen().Facial != -2 {
		t.Error("what was seen does not count")
	}
}

func TestADryFieldIsOneThatWasJudgedDry(t *testing.T) {
	for isolation, wet := range map[Isolation]bool{Secure: false, Doubtful: true, None: true, "": false} {
		if isolation.Wet() != wet {
			t.Errorf("%q: wet %v", isolation, !wet)
		}
	}
}
