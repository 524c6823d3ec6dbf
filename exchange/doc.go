// Package exchange reads and writes the product's open format, "nexufix/1".
//
// The structs of this package are the format: their json tags are the names,
// their other tags (minimum, exclusiveMinimum, maximum, enum, pattern,
// required, maxItems …) the limits. One reader reads all of them: every error has a path, what was found
// and what is allowed, and all errors of a document are reported at once. The OpenAPI document is
// generated from the same tags.
//
// Wherever a field is named x_mm, x_kg or x_deg, the reader also takes x with
// text that a person would write: "width": "48 3/8 in".
package exchange
