package chair

// exposure is what is done where the pulp of a permanent tooth is laid open, in its order
// (consensus on the treatment of vital pulps; what bleeds longer is more than a cap can cure).
var exposure = []string{
	"Stop cutting. Dam on, no saliva; leave what bleeds alone.",
	"Clean the edges to hard dentin: a new round bur at low speed, or a spoon.",
	"Rinse, press a moist pellet on it, look after 5 minutes.",
	"Stopped, small and clean: calcium silicate, 1.5 to 2 mm, past its edges; glass ionomer over it; fill today.",
	"Bleeds on after 10 minutes, or was inflamed: pulpotomy, root canal treatment, or close it and refer.",
	"Tell the patient; note its size, the bleeding, the cover. Film and cold test after 6 and 12 months.",
}

// primaryExposure is the same of a primary tooth, in which a cap over carious dentin often fails.
var primaryExposure = []string{
	"Stop cutting. Dam on, no saliva; leave what bleeds alone.",
	"Rinse, press a moist pellet on it, look after 5 minutes.",
	"Stopped, no sinus, not loose: pulpotomy, covered by calcium silicate; then a filling or a preformed crown.",
	"Bleeds on, is dark, or pus comes: pulp treatment or extraction; think of the space.",
	"Tell the parents; note the bleeding and the cover. Look, and take a film, after 6 months.",
}

// Exposure is what is done, step by step, where a pulp is laid open.
func Exposure(primary bool) []string {
	if primary {
		return primaryExposure
	}
	return exposure
}
