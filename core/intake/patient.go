package intake

import (
	"fmt"
	"math"
)

// oldest (years) anyone is planned for.
const oldest = 120

// CheckBirthYear says what is wrong with a birth year seen from this year; "" where
// nothing is.
func CheckBirthYear(birthYear, thisYear int) string {
	switch {
	case birthYear > thisYear:
		return fmt.Sprintf("%d is still to come: give the year of birth, four figures", birthYear)
	case birthYear < thisYear-oldest:
		return fmt.Sprintf("%d is more than %d years ago: give the year of birth, four figures", birthYear, oldest)
	default:
		return ""
	}
}

// CheckPatient says what is wrong with the patient of a case that was started in
// one year and is planned in another: it must be the one whose code and birth year
// were given when the case was started.
func (c *Case) CheckPatient(code string, birthYear, started, now int) Faults {
	var faults Faults
	if c.Patient.Code != "" && c.Patient.Code != code {
		faults = append(faults, Fault{"$.patient.code", fmt.Sprintf("this case is of patient %s: start a new case for another patient", code)})
	}
	// Within a year: birthdays lie anywhere in it.
	if youngest, eldest := float64(started-birthYear-1), float64(now-birthYear+1); c.Patient.AgeYears < youngest ||
		c.Patient.AgeYears > eldest {
		faults = append(
			faults,
			Fault{
				"$.patient.age_years",
				fmt.Sprintf(
					"%v years do not fit a birth in %d: give %v to %v, or correct the birth year",
					c.Patient.AgeYears,
					birthYear,
					math.Max(youngest, 0),
					eldest,
				),
			},
		)
	}
	return faults
}
