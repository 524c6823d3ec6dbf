// Package catalog holds the nouns of the trade (displays, brackets with
// their kits, walls, policy, jobs) and what makes one valid.
//
// A figure that nobody gave is missing, never 0; a check that needs it says
// so. A hole's figures carry their origin, because the worst-case sums
// depend on how far a figure can be trusted.
package catalog
