package cavity

// Features of a cavity's surface, as solid labels.
const (
	Floor uint16 = iota + 1
	WallBuccal
	WallLingual
	WallMesial
	WallDistal
	WallExtension // sides of a groove extension
	Excavation    // caries followed past floor or wall
	// Of a proximal box.
	BoxBuccal
	BoxLingual
	AxialWall
	GingivalFloor
	AxiopulpalEdge
	RetentionGroove
	CuspReduction
	// Of cavities on smooth surfaces.
	IncisalWall
	OcclusalWall
	GingivalWall
	FacialWall // what a bur sunk from lingual stops at, and the other way round
	LingualWall
	FractureSurface
	LingualLock
	// Protection is no wall of the cavity: what lies over the pulp under the filling.
	Protection
)

// BevelFlag marks a feature's bevel: the chamfer between wall and margin.
const BevelFlag uint16 = 0x100

// Features is more than any feature, its bevel included: for tables of them.
const Features = 2 * int(BevelFlag)

// WallOf is the wall that a bevel belongs to; other features are their own.
func WallOf(feature uint16) uint16 { return feature &^ BevelFlag }

var featureNames = map[uint16]string{
	Floor: "pulpal floor", WallBuccal: "buccal wall", WallLingual: "lingual wall", WallMesial: "mesial wall",
	WallDistal: "distal wall", WallExtension: "groove extension wall", Excavation: "excavation",
	BoxBuccal: "buccal wall of the box", BoxLingual: "lingual wall of the box", AxialWall: "axial wall", GingivalFloor: "gingival floor",
	AxiopulpalEdge: "axiopulpal line angle", RetentionGroove: "retention groove",
	CuspReduction: "reduced cusp",
	IncisalWall:   "incisal wall", OcclusalWall: "occlusal wall", GingivalWall: "gingival wall",
	FacialWall: "facial wall", LingualWall: "lingual wall", FractureSurface: "fracture surface", LingualLock: "lingual lock",
	Protection: "pulp protection",
}

// FeatureName names a feature in the dentist's words.
func FeatureName(feature uint16) string {
	if feature&BevelFlag != 0 {
		return "bevel over the " + FeatureName(WallOf(feature))
	}
	return featureNames[feature]
}
