package plan

// SharedPlanner is the one that the tests of this package share: teeth are modelled once.
var SharedPlanner = planner
