package measure

// What a loose piece of a cavity's solid must be, or it is a crumb of the
// computation: a tenth of a millimetre each way, and as thick on the average.
const (
	LeastPiece    = 0.001 // mm³
	ThinnestPiece = 0.1   // mm
)
