package chair

// exposure is what is done where the pulp of a permanent tooth is laid open, in its order
// (consensus on the treatment of vital pulps; what bleeds longer is more than a cap can cure).
var exposure = []string{
	"Stop cutting. Keep saliva away: dam on, dry round it, leave what bleeds alone.",
	"Clean the edges round it to hard dentin, with a new round bur at low speed or a spoon.",
	"Rinse with saline or hypochlorite, press a moist pellet on it, look after 5 minutes.",
	"It has stopped, and the opening is small and clean: calcium silicate, 1.5 to 2 mm, past its edges; glass ionomer over it; then fill, today.",
	"It bleeds on after 10 minutes, or the pulp was inflamed: pulpotomy or root canal treatment by your own protocol, or close it and refer.",
	"Tell the patient. Write down its size, how long it bled and what covers it. Film and cold test after 6 and 12 months.",
}

// primaryExposure is the same of a primary tooth, in which a cap over carious dentin often fails.
var primaryExposure = []string{
	"Stop cutting. Keep saliva away: dam on, dry round it, leave what bleeds alone.",
	"Rinse, press a moist pellet on it, look after 5 minutes.",
	"It has stopped, and there is no sinus and no mobility: pulpotomy, covered by calcium silicate; then a filling or a preformed crown.",
	"It bleeds on, is dark, or there is pus: pulp treatment or extraction by your own protocol; think of the space.",
	"Tell the parents. Write down how long it bled and what covers it. Look, and take a film, after 6 months.",
}

// Exposure is what is done, step by step, where a pulp is laid open.
func Exposure(primary bool) []string {
	if primary {
		return primaryExposure
	}
	return exposure
}
