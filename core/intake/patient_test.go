package intake

import (
	"strings"
	"testing"
)

func TestBirthYearsLieInALifetime(t *testing.T) {
	const now = 2026
	for year, fine := range map[int]bool{1990: true, 2026: true, 1906: true, 2027: false, 2030: false, 1905: false, 199: false, 0: false} {
		if problem := CheckBirthYear(year, now); (problem == "") != fine {
			t.Errorf("%d: %q", year, problem)
		}
	}
}

func TestACaseKeepsItsPatient(t *testing.T) {
	for _, k := range []struct {
		name       string
		code       string
		age        float64
		started    int
		now        int
		wantFaults []string
	}{
		{"the same", "HV-031", 41, 2026, 2026, nil},
		{"before the birthday", "HV-031", 40.2, 2026, 2026, nil},
		{"opened years later", "HV-031", 41, 2026, 2029, nil},
		{"aged since", "HV-031", 44, 2026, 2029, nil},
		{"no code", "", 41, 2026, 2026, nil},
		{"another code", "HV-032", 41, 2026, 2026, []string{"$.patient.code"}},
		{"a child's age", "HV-031", 8, 2026, 2026, []string{"$.patient.age_years"}},
		{"neither", "HV-032", 60, 2026, 2026, []string{"$.patient.code", "$.patient.age_years"}},
	} {
		c := molar(fissure)
		c.Patient.Code, c.Patient.AgeYears = k.code, k.age
		faults := c.CheckPatient("HV-031", 1985, k.started, k.now)
		if len(faults) != len(k.wantFaults) {
			t.Errorf("%s: %v", k.name, faults)
			continue
		}
		for n, want := range k.wantFaults {
			if faults[n].Path != want || !strings.Contains(faults[n].Message, ":") {
				t.Errorf("%s: %v", k.name, faults[n])
			}
		}
	}
}
