package cavity

import (
	"errors"
	"fmt"

	"obturon/core/anatomy"
	"obturon/core/lesion"
)

// The reasons for which a cavity cannot be cut as asked.
var (
	// ErrNothingToOpen means that no finding calls for a cut.
	ErrNothingToOpen = errors.New("no finding of this case is prepared on the occlusal or a proximal surface")
	// ErrOffOcclusalSurface means that the outline leaves the occlusal surface.
	ErrOffOcclusalSurface = errors.New("the outline runs off the occlusal surface: narrow it, or keep more of the ridges")
	// ErrBoxOffTooth means that a box's figures lie where there is no tooth.
	ErrBoxOffTooth = errors.New("the box runs off the tooth: bring its walls or its seat back")
	// ErrOffSmoothSurface means that a cavity's figures lie where its smooth surface has ended.
	ErrOffSmoothSurface = errors.New("the cavity runs off the surface it is cut into: bring its walls back")
	// ErrNarrowFloor means that no head gets down to a pulpal floor between its walls.
	ErrNarrowFloor = errors.New("a floor is narrower than the head that cuts it: widen the outline, or lean its end walls out less")
	// ErrNoIncisalAngleLeft means that a proximal lesion leaves no incisal angle to keep.
	ErrNoIncisalAngleLeft = errors.New("nothing would be left of the incisal angle over this lesion")
)

// PulpReachedError means that what must go for a finding lies at the pulp.
type PulpReachedError struct{ By lesion.Finding }

// Error names the finding.
func (e PulpReachedError) Error() string { return "the pulp is reached by " + e.By.Name() }

// CheckPulp returns a PulpReachedError for the first of the lesions that leaves
// less dentin than anyone can stop at.
func CheckPulp(m *anatomy.Model, lesions []lesion.Lesion) error {
	for _, l := range lesions {
		if lesion.ToPulp(m, l) < LeastDentin {
			return PulpReachedError{l.Found()}
		}
	}
	return nil
}

var refusals = []struct {
	is   error
	says string
}{
	{lesion.ErrOffTooth, "A finding reaches past what this tooth has. Check its sizes."},
	{
		ErrNoIncisalAngleLeft,
		"Over this lesion nothing would be left of the incisal angle: look whether it stands, and enter it as lost, or check the lesion's sizes.",
	},
	{ErrOffSmoothSurface, "The lesion reaches past the surface it lies on. Check its sizes and its height above the CEJ."},
	{ErrNarrowFloor, "A floor would be narrower than the head that cuts it. Widen the outline, or lean its end walls out less."},
	{
		ErrNothingToOpen,
		"Nothing here is cut by this school: caries within the enamel of a fissure is sealed, and cusps and cracks are only recorded. To open it all the same, choose a school that opens fissures, or enter the depth that the caries has reached.",
	},
	{
		ErrBoxOffTooth,
		"The proximal lesion reaches past what a box on this tooth can take in. Check its sizes; larger preparations are not planned yet.",
	},
	{
		ErrOffOcclusalSurface,
		"The lesion reaches past the occlusal surface: this is more than a Class I or II. Check its sizes; larger preparations are not planned yet.",
	},
}

// Refusal tells the dentist why a tooth or its lesion cannot have a cavity; ""
// for an error that is no such reason.
func Refusal(err error) string {
	var reached PulpReachedError
	if errors.As(err, &reached) {
		return fmt.Sprintf(
			"On this tooth's model the pulp is reached by this finding: %s. Test the pulp and decide on it first; a filling is planned after that. If the film shows dentin left, give the finding its own sizes.",
			reached.By.Name(),
		)
	}
	for _, r := range refusals {
		if errors.Is(err, r.is) {
			return r.says
		}
	}
	return ""
}
