package instrument

import (
	"fmt"
	"slices"
	"strings"
)

// Kit is what lies ready of the instruments, with the sizes that were measured of them.
// The nil Kit is all of them, as their numbers say.
type Kit struct {
	out map[ID]string // why an instrument does not lie ready
	own map[ID]Instrument
}

// Has reports an instrument that lies ready.
func (k *Kit) Has(id ID) bool { return k.Out(id) == "" }

// Out is why an instrument does not lie ready, in words; "" where it does.
func (k *Kit) Out(id ID) string {
	if k == nil {
		return ""
	}
	return k.out[id]
}

// Get finds an instrument with its own size, whether it lies ready or not. It panics as
// MustFind does.
func (k *Kit) Get(id ID) Instrument {
	if k != nil {
		if own, ok := k.own[id]; ok {
			return own
		}
	}
	return MustFind(id)
}

// Ready are those of some instruments that lie ready, in their order.
func (k *Kit) Ready(ids []ID) []ID {
	return slices.DeleteFunc(slices.Clone(ids), func(id ID) bool { return !k.Has(id) })
}

// Heads are all burs and diamonds that lie ready and cut away, in the order of All.
func (k *Kit) Heads() []ID {
	var ids []ID
	for _, i := range All {
		if i.Head != nil && i.ID != UltrasonicTip && k.Has(i.ID) {
			ids = append(ids, i.ID)
		}
	}
	return ids
}

// Fingerprint tells kits apart by what lies ready and its sizes.
func (k *Kit) Fingerprint() string {
	var parts []string
	for _, i := range All {
		if !k.Has(i.ID) {
			parts = append(parts, "-"+string(i.ID))
			continue
		}
		switch own := k.Get(i.ID); {
		case own.Head != nil && *own.Head != *i.Head:
			parts = append(parts, fmt.Sprintf("%s %v", i.ID, *own.Head))
		case own.Blade != nil && *own.Blade != *i.Blade:
			parts = append(parts, fmt.Sprintf("%s %v", i.ID, *own.Blade))
		}
	}
	return strings.Join(parts, ";")
}
