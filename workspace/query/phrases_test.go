package query

import (
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
)

// What the map says often does not crowd out what it could say; room that is left over is
// used all the same.
func TestOffersLeaveRoomForOthers(t *testing.T) {
	var all []Offer
	for i := range 20 {
		all = append(all, Offer{fmt.Sprint("here ", i), "here"})
	}
	all = append(all, Offer{"is part of", "parts"}, Offer{"causes", "cause"})
	kept := crowdedOut(all, map[string]int{"here": maxOffersHere})
	assert.Len(t, kept, maxOffers)
	assert.Equal(t, all[:6], kept[:6])
	assert.Equal(t, all[20:], kept[6:])
	assert.Len(t, crowdedOut(all[:20], map[string]int{"here": maxOffersHere}), maxOffers)
	assert.Empty(t, crowdedOut(nil, nil))
	assert.Equal(t, []Offer{{"Bell", ""}, {"the bell", ""}}, fitting([]Offer{{"the bell", ""}, {"Bell", ""}, {"bell", ""}, {"rim", ""}}, "bel"))
}
