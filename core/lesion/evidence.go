package lesion

// Evidence is what was seen of a finding beyond its place and its extent: it decides what is
// indicated. Nothing that was not entered is taken for the worse or for the better.
type Evidence struct {
	Surface   Surface   // of caries
	Activity  Activity  // of caries
	Fault     OldFault  // of an old filling
	Complaint Complaint // of a crack
}

// Surface of a carious lesion; "" where it was not looked at, or could not be seen.
type Surface string

// The surfaces of carious lesions, as cariology tells them apart: an intact one can be sealed
// or arrested, one open to dentin cannot be kept clean.
const (
	Intact       Surface = "intact"
	EnamelBroken Surface = "enamel_broken"
	Cavitated    Surface = "cavitated" // open to dentin
)

// Surfaces lists them.
var Surfaces = []Surface{Intact, EnamelBroken, Cavitated}

// Activity of a carious lesion; "" where it was not judged.
type Activity string

// The activities: an active lesion is soft or rough and under plaque, an arrested one hard,
// dark and clean.
const (
	Active   Activity = "active"
	Arrested Activity = "arrested"
)

// Activities lists them.
var Activities = []Activity{Active, Arrested}

// OldFault is what is wrong with an old filling; "" where nothing was entered: it is sound.
type OldFault string

// The faults of old fillings.
const (
	OpenMargin   OldFault = "margin" // stained or open
	CariesBeside OldFault = "caries_beside"
	Broken       OldFault = "broken" // broken, loose or lost in part
	OpenContact  OldFault = "open_contact"
	Painful      OldFault = "painful"
	NotWanted    OldFault = "not_wanted"
)

// OldFaults lists them.
var OldFaults = []OldFault{OpenMargin, CariesBeside, Broken, OpenContact, Painful, NotWanted}

// Complaint about a crack; "" for a line without any.
type Complaint string

// The complaints of cracks.
const (
	PainOnBiting Complaint = "pain_on_biting"
	Split        Complaint = "split" // the parts move apart
)

// Complaints lists them.
var Complaints = []Complaint{PainOnBiting, Split}

// Stays reports an old filling that is not cut out: one that is sound, or sound but for its
// margin. What else is wrong with it calls for a new one.
func (f Finding) Stays() bool {
	return f.Kind == OldRestoration && (f.Fault == "" || f.Fault == OpenMargin)
}

// Sound reports an old filling that nothing is wrong with.
func (f Finding) Sound() bool { return f.Kind == OldRestoration && f.Fault == "" }
