package catalog

import (
	"fmt"

	"nexufix/core/fastener"
	"nexufix/core/quantity"
)

// Label is what a part is called on lists. Sizes of fasteners are metric by
// name.
func (i *Item) Label() string {
	switch i.Kind {
	case Bolt:
		return BoltLabel(i.Thread, i.Length)
	case Washer:
		return WasherLabel(i.Thread, i.Thickness, i.Outer)
	case Spacer:
		return SpacerLabel(i.Length, i.Outer)
	case ShoulderWasher:
		return ShoulderLabel(i.Thread, i.Thickness)
	case PlainPart, Tool:
		return i.Name
	}
	if i.Name != "" {
		return i.Name
	}
	switch {
	case i.Diameter > 0 && i.Length > 0:
		return fmt.Sprintf("%s %s × %s", i.Kind.Word(), plain(i.Diameter.Round(quantity.Millimetre/10)), plain(i.Length))
	case i.Diameter > 0:
		return fmt.Sprintf("%s %s", i.Kind.Word(), plain(i.Diameter.Round(quantity.Millimetre/10)))
	}
	return i.Kind.Word()
}

func plain(l quantity.Length) string { return quantity.FormatDecimal(int64(l), 6) }

// BoltLabel names a bolt.
func BoltLabel(t fastener.Thread, l quantity.Length) string {
	return fmt.Sprintf("bolt %s×%s", t, plain(l))
}

// WasherLabel names a washer.
func WasherLabel(t fastener.Thread, thick, outer quantity.Length) string {
	return fmt.Sprintf("washer %s, Ø %s × %s", t, plain(outer), plain(thick))
}

// SpacerLabel names a spacer.
func SpacerLabel(l, outer quantity.Length) string {
	return fmt.Sprintf("spacer %s, Ø %s", plain(l), plain(outer))
}

// ShoulderLabel names a shoulder washer.
func ShoulderLabel(t fastener.Thread, thick quantity.Length) string {
	return fmt.Sprintf("shoulder washer %s, %s", t, plain(thick))
}
