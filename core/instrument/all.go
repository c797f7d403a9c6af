package instrument

// The instruments, by generic number or shape.
const (
	SmallPear      ID = "329"
	Pear           ID = "330"
	LongPear       ID = "245"
	RefiningPear   ID = "refining pear"
	InvertedCone   ID = "34"
	SlimTaper      ID = "169L"
	StraightBur    ID = "57"
	CrossCut       ID = "557"
	LargeRound     ID = "4"
	SmallRound     ID = "2"
	QuarterRound   ID = "1/4"
	MicroDiamond   ID = "micro-diamond"
	FineFlame      ID = "fine flame"
	Football       ID = "football diamond"
	LongTaper      ID = "long tapered diamond"
	Cylinder       ID = "1.0 cylinder diamond"
	UltrasonicTip  ID = "fine ultrasonic margin tip"
	Hatchet        ID = "10-7-14"
	ShortHatchet   ID = "10-6-14"
	Chisel         ID = "10-6-8"
	AngledChisel   ID = "10-8-16"
	MarginTrimmer  ID = "margin trimmer"
	Spoon          ID = "spoon excavator"
	Carver         ID = "carver"
	Mirror         ID = "mirror"
	Tweezers       ID = "tweezers"
	Suction        ID = "suction tip"
	Explorer       ID = "explorer"
	Probe          ID = "probe"
	Pins           ID = "pins"
	Condenser      ID = "condenser"
	ContactPaper   ID = "articulating paper"
	Pencil         ID = "pencil"
	ShadeGuide     ID = "shade guide"
	Putty          ID = "putty"
	Wedge          ID = "wedge"
	Guard          ID = "wedge with guard"
	MetalStrip     ID = "metal strip"
	Cord           ID = "retraction cord"
	CervicalClamp  ID = "clamp"
	Etch           ID = "etch"
	Adhesive       ID = "adhesive"
	Sealant        ID = "sealant"
	Resin          ID = "resin"
	Flowable       ID = "flowable"
	CompositePaste ID = "paste"
	PumiceCup      ID = "cup"
	Discs          ID = "discs, coarse to superfine"
	FlashBlade     ID = "12 blade"
	FinishingBurs  ID = "finishing burs"
	FillingBlade   ID = "filling instrument"
	Carrier        ID = "amalgam carrier"
	Burnisher      ID = "burnisher"
	CuringLamp     ID = "curing lamp"
	Applicator     ID = "applicator"
	Floss          ID = "floss"
	RetainerBand   ID = "band with retainer"
	SectionalBand  ID = "sectional band with ring"
	FoldedBand     ID = "T-band"
	ClearStrip     ID = "clear strip"
	Dam            ID = "rubber dam"
	MolarClamp     ID = "molar clamp"
	PremolarClamp  ID = "premolar clamp"
	CottonRolls    ID = "cotton rolls"
	SurfaceGel     ID = "surface gel"
	Syringe        ID = "syringe"
	LiningCement   ID = "lining cement"
	CappingCement  ID = "capping cement"
)

// All lists every instrument that a step may name. Heads and blades have the sizes
// that operative dentistry texts list for the number or the formula (ISO 6360 for
// rotary heads, the three-number formula for blades, which are ground to about 0.4).
var All = []Instrument{
	{ID: SmallPear, Name: "small pear", Use: "narrow first cut in fissures; leaves room to correct", Head: &Head{Shape: PearShape, Diameter: 0.6, Length: 1.2}},
	{ID: Pear, Name: "pear", Use: "outline and depth; flush with the surface it stands 1.5 deep", Head: &Head{Shape: PearShape, Diameter: 0.8, Length: 1.5}},
	{ID: LongPear, Name: "long pear", Use: "boxes and deep walls", Head: &Head{Shape: LongPearShape, Diameter: 0.8, Length: 3.0}},
	{ID: RefiningPear, Name: "flat-ended refining pear", Use: "levels floors and defines line angles", Head: &Head{Shape: FlatPear, Diameter: 0.8, Length: 2.0}},
	{ID: InvertedCone, Name: "inverted cone", Use: "floors only: press down, never sideways", Head: &Head{Shape: InvertedConeShape, Diameter: 0.8, Length: 0.8, Tip: 0.8}},
	{ID: SlimTaper, Name: "slim taper", Use: "extends grooves without widening", Head: &Head{Shape: Taper, Diameter: 0.9, Length: 4.4, Tip: 0.55}},
	{ID: StraightBur, Name: "straight, square end", Use: "reduces height; on walls it loses convergence and leaves sharp corners", Head: &Head{Shape: Straight, Diameter: 1.0, Length: 4.0}},
	{ID: CrossCut, Name: "straight with cross-cuts, square end", Use: "cuts old fillings loose; on walls it leaves sharp corners", Head: &Head{Shape: Straight, Diameter: 1.0, Length: 4.0}},
	{ID: LargeRound, Name: "round", Use: "caries at low speed", Head: &Head{Shape: Round, Diameter: 1.4, Length: 1.4}},
	{ID: SmallRound, Name: "round, small", Use: "caries in narrow places at low speed", Head: &Head{Shape: Round, Diameter: 1.0, Length: 1.0}},
	{ID: QuarterRound, Name: "round, smallest", Use: "retention grooves, in dentin only", Head: &Head{Shape: Round, Diameter: 0.5, Length: 0.5}},
	{ID: MicroDiamond, Name: "small pear diamond", Use: "opens cervical saucers", Head: &Head{Shape: PearShape, Diameter: 0.8, Length: 1.2}},
	{ID: FineFlame, Name: "finishing flame", Use: "bevels, in one light pass", Head: &Head{Shape: Flame, Diameter: 1.0, Length: 3.0}},
	{ID: Football, Name: "football diamond", Use: "hollow lingual surfaces and long bevels", Head: &Head{Shape: FootballShape, Diameter: 1.6, Length: 3.2}},
	{ID: LongTaper, Name: "long tapered diamond", Use: "draws a long bevel out to nothing", Head: &Head{Shape: Taper, Diameter: 1.2, Length: 6.0, Tip: 0.4}},
	{ID: Cylinder, Name: "round-end cylinder diamond", Use: "reduces cusps; its width tells the depth", Head: &Head{Shape: RoundCylinder, Diameter: 1.0, Length: 4.0}},
	{ID: UltrasonicTip, Name: "fine ultrasonic margin tip", Use: "draws a margin smooth without a rotating edge", Head: &Head{Shape: Flame, Diameter: 0.8, Length: 4.0}},

	{ID: Hatchet, Name: "enamel hatchet 10-7-14", Use: "planes and cleaves enamel walls", Blade: &Blade{Width: 1.0, Thick: 0.4, Length: 7, Centigrades: 14}},
	{ID: ShortHatchet, Name: "enamel hatchet 10-6-14", Use: "planes walls where the longer blade touches", Blade: &Blade{Width: 1.0, Thick: 0.4, Length: 6, Centigrades: 14}},
	{ID: Chisel, Name: "chisel 10-6-8", Use: "planes margins of smooth surfaces", Blade: &Blade{Width: 1.0, Thick: 0.4, Length: 6, Centigrades: 8}},
	{ID: AngledChisel, Name: "chisel 10-8-16", Use: "distal walls of upper second molars", Blade: &Blade{Width: 1.0, Thick: 0.4, Length: 8, Centigrades: 16}},
	{ID: MarginTrimmer, Name: "gingival margin trimmers, mesial and distal pair", Use: "trims the gingival margin, bevels the axiopulpal line angle", Blade: &Blade{Width: 1.3, Thick: 0.4, Length: 7, Centigrades: 14}},
	{ID: Spoon, Name: "spoon excavator", Use: "lifts soft dentin", Blade: &Blade{Width: 1.0, Thick: 0.4, Length: 8, Centigrades: 14, Rounded: true}},
	{ID: Carver, Name: "carver", Use: "carves amalgam, its blade on tooth", Blade: &Blade{Width: 2.0, Thick: 0.4, Length: 6, Centigrades: 0}},

	{ID: Mirror, Name: "mouth mirror", Use: "looks, holds the cheek away"},
	{ID: Tweezers, Name: "tweezers", Use: "hold what is small"},
	{ID: Suction, Name: "suction tip", Use: "takes water and scraps away", SingleUse: true},
	{ID: Explorer, Name: "explorer", Use: "feels margins and junction; its tip is about 0.5"},
	{ID: Probe, Name: "graduated probe", Use: "reads depths and widths"},
	{ID: Pins, Name: "gauge pins 0.4, 1.0 and 1.5", Use: "go or no-go for clearance and depth"},
	{ID: Condenser, Name: "condensers 1.5 and 2.0", Use: "packs amalgam, proves occlusal room"},

	{ID: ContactPaper, Name: "articulating paper", Use: "marks contacts", SingleUse: true},
	{ID: Pencil, Name: "pencil", Use: "draws the outline on the tooth"},
	{ID: ShadeGuide, Name: "shade guide", Use: "the shade, on the moist tooth"},
	{ID: Putty, Name: "putty", Use: "an index before cutting", SingleUse: true},
	{ID: Wedge, Name: "wedge", Use: "holds the strip and parts the teeth", SingleUse: true},
	{ID: Guard, Name: "wedge with guard", Use: "guards the adjacent tooth and parts the teeth", SingleUse: true},
	{ID: MetalStrip, Name: "metal strip", Use: "guards the adjacent tooth", SingleUse: true},
	{ID: Cord, Name: "retraction cord", Use: "holds the gingiva back", SingleUse: true},
	{ID: CervicalClamp, Name: "cervical clamp", Use: "holds the dam under the margin"},
	{ID: Etch, Name: "etching gel", Use: "etches enamel"},
	{ID: Adhesive, Name: "adhesive", Use: "bonds"},
	{ID: Sealant, Name: "sealant", Use: "seals fissures"},
	{ID: Resin, Name: "thin resin", Use: "seals margins"},
	{ID: Flowable, Name: "flowable composite", Use: "first thin layer"},
	{ID: CompositePaste, Name: "composite paste", Use: "main mass"},
	{ID: PumiceCup, Name: "pumice with cup", Use: "cleans enamel before bonding", SingleUse: true},
	{ID: Discs, Name: "discs, coarse to superfine", Use: "finish", SingleUse: true},
	{ID: FlashBlade, Name: "number 12 blade", Use: "removes excess, towards tooth", SingleUse: true},
	{ID: FinishingBurs, Name: "finishing burs", Use: "finish the occlusal surface"},
	{ID: FillingBlade, Name: "filling instrument", Use: "lays and shapes composite"},
	{ID: Carrier, Name: "amalgam carrier", Use: "brings amalgam load by load"},
	{ID: Burnisher, Name: "burnisher", Use: "presses amalgam to the margins, a band to the contact"},
	{ID: CuringLamp, Name: "curing lamp", Use: "cures; through its filter"},
	{ID: Applicator, Name: "applicator", Use: "rubs bond in", SingleUse: true},
	{ID: Floss, Name: "floss", Use: "proves the contact", SingleUse: true},
	{ID: RetainerBand, Name: "band in a retainer", Use: "the wall that a box lacks", SingleUse: true},
	{ID: SectionalBand, Name: "sectional band with a ring", Use: "one side's wall; the ring parts the teeth", SingleUse: true},
	{ID: FoldedBand, Name: "T-band", Use: "the wall of a primary tooth", SingleUse: true},
	{ID: ClearStrip, Name: "clear strip", Use: "the side of a front tooth; lets light through", SingleUse: true},
	{ID: Dam, Name: "rubber dam, its frame and punch", Use: "keeps the field dry and the throat safe", SingleUse: true},
	{ID: MolarClamp, Name: "molar clamp with wings", Use: "holds the dam"},
	{ID: PremolarClamp, Name: "premolar clamp", Use: "holds the dam"},
	{ID: CottonRolls, Name: "cotton rolls and suction", Use: "keep a field dry for as long as they last", SingleUse: true},
	{ID: SurfaceGel, Name: "surface anaesthetic", Use: "before the needle", SingleUse: true},
	{ID: CappingCement, Name: "capping cement, calcium silicate", Use: "on the deepest part, over soft dentin or next to the pulp", SingleUse: true},
	{ID: LiningCement, Name: "lining glass ionomer", Use: "insulates the pulp, covers the capping", SingleUse: true},
	{ID: Syringe, Name: "syringe with needle and cartridge", Use: "numbs, by the practice's own protocol", SingleUse: true},
}
