package pipeline

import "obturon/core/anatomy"

// CoreVersion names the rules and models that made a plan.
const CoreVersion = "0.6+anatomy." + anatomy.Version
