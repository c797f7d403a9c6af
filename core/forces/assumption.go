package forces

// RigidBody is what the pulls rest on.
const RigidBody = "A rigid filling without a bond, in the cavity as it is cut: whether the tooth stands in its way, not how hard one must pull."
