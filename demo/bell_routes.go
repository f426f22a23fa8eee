package demo

import (
	cm "mevrin/core/conceptmap"
	"mevrin/core/conceptmap/edit"
)

// planned says what a route is for, for whom, and how long its stops take.
func (m *maker) planned(id, purpose, audience string, minutes []int) {
	sum := 0
	var ops []edit.Operation
	for i, n := range minutes {
		sum += n
		ops = append(ops, &edit.PlanStop{Stop: stopID(id, i), Minutes: &n})
	}
	m.do(append(ops, &edit.PlanRoute{Route: cm.ID(id), Purpose: &purpose, Audience: &audience, Minutes: &sum})...)
}

// bellRoutes adds the routes of the main map for two ages to that of cause and effect.
func (m *maker) bellRoutes() {
	yes, picture, alone := true, cm.LayoutPicture, cm.LayoutMap
	m.route("cause", "From the blow to the ear", bellRoute)
	m.planned("cause", "You will be able to tell, *one cause after another*, how a blow in a tower becomes something that you hear.", "by cause and effect", []int{2, 2, 1, 2, 3, 3, 2, 2, 1, 3, 2, 2, 3})
	m.route("older", "What a tone is made of", olderRoute)
	m.planned("older", "You will be able to say what makes a tone high, loud and long, and which of that lies in the bell, in the air, in you.", "age 14", []int{2, 4, 4, 5, 4, 3, 4, 4})
	m.do(
		&edit.PlanStop{Stop: stopID("older", 3), OneByOne: &yes}, &edit.PlanStop{Stop: stopID("older", 2), Layout: &picture}, &edit.PlanStop{Stop: stopID("older", 7), Layout: &alone},
		&edit.WriteStop{Stop: stopID("older", 0), Part: "opens", Words: "In the metal"}, &edit.WriteStop{Stop: stopID("older", 4), Part: "opens", Words: "On the way"}, &edit.WriteStop{Stop: stopID("older", 6), Part: "opens", Words: "In you"},
		&edit.WriteStop{Stop: stopID("older", 1), Part: "question", Words: "Strike a bell harder. Does it sound higher, louder, or both?"},
		&edit.WriteStop{Stop: stopID("older", 1), Part: "answer", Words: "Only **louder**. A harder blow makes the metal swing farther, not more often."},
		&edit.WriteStop{Stop: stopID("older", 5), Part: "question", Words: "What has become of the energy that you no longer hear?"},
		&edit.WriteStop{Stop: stopID("older", 5), Part: "answer", Words: "It is spread over more air, and a little of it has warmed the air on its way."},
		&edit.PlanRoute{Route: "cause", Around: &yes}, &edit.PlanRoute{Route: "older", Together: &yes},
		&edit.PlanStop{Stop: stopID("older", 2), Fades: &yes},
		&edit.ShowAtStop{Stop: stopID("older", 3), Refs: []cm.Key{{Kind: cm.EntityRegion, ID: "in-metal"}}},
		&edit.ShowAtStop{Stop: stopID("older", 7), Refs: []cm.Key{{Kind: cm.EntityMap}}},
	)
	m.route("young", "How the bell talks to you", youngRoute)
	m.planned("young", "You will know who rings the bell, what trembles, and how it gets into your ear.", "age 8", []int{3, 3, 4, 3, 3, 4})
	m.do(&edit.PlanStop{Stop: stopID("young", 0), Layout: &picture}, &edit.PlanStop{Stop: stopID("young", 4), Layout: &picture})
}

var olderRoute = []stop{
	{[]string{"sound", "vibration"}, "It trembles", "Whatever you hear, something trembled first. In a bell it is the metal: **vibration**.\n\nPut a finger on a bell that sounds, and it falls silent.", "Have the hand bell at the desk. Let two of them touch it, one early and one late."},
	{[]string{"frequency", "amplitude"}, "Two ways to measure it", "How *often* in a second: **frequency**. How *far* to and fro: **amplitude**.\n\nThe two do not depend on each other. A bell struck harder does not sound higher.", "Most will say that harder is higher. Let them try before you say anything."},
	{[]string{"nodes"}, "Where nothing moves", "Along some lines the metal stays at rest. Fine sand laid on a bell gathers there.", "The drawing is large on the screen. Ask where the sand comes from before you tell."},
	{[]string{"partials"}, "Many tones, one bell", "A bell trembles in several ways at once. Each is a tone of its own, and together they are the sound of *this* bell.", "They come one after the other: play each tone as it appears, then the bell itself."},
	{[]string{"air", "wave"}, "A push that travels", "The air does not travel; the push does. About 340 metres in a second.", ""},
	{[]string{"distance", "loudness"}, "Why it fades", "Farther away, the same push is spread over more air. Nothing at the bell has changed.", "Link to last week: the lesson on loudness in the yard."},
	{[]string{"drum", "hairs", "signals", "brain"}, "From push to signal", "A thin skin follows the push; hair cells bend; each that bends sends a signal. Nothing that reaches the brain is sound any more.", "The picture of the ear is at the concept “the ear”: open it from the desk."},
	{nil, "All of it", "", "Give them two minutes in pairs: each tells the other one sentence of the map that was new."},
}

var youngRoute = []stop{
	{[]string{"bell"}, "Here it hangs", "This is **the bell**. It hangs high up in the tower.\n\nCan you see where it is thickest?", "Ask who has been up a tower. The drawing is large; point at the rim with the light spot."},
	{[]string{"ringer", "rope", "clapper", "bow"}, "Who makes it ring?", "*The ringer* pulls the rope. The rope swings the clapper. **Bong!**", "Everybody pulls a rope in the air, all at once."},
	{[]string{"sound"}, "Listen!", "Close your eyes. How long can you hear it?", "Play the bell from the desk, and let them put up a hand for as long as they hear it. Then play it again."},
	{[]string{"vibration"}, "It trembles", "The metal trembles, so fast that you cannot see it. You can feel it.", "A rice grain on a drum serves where there is no bell."},
	{[]string{"ear"}, "Into your ear", "The trembling goes through the air, all the way into **your ear**.", ""},
	{[]string{"brain"}, "You hear it", "And then you know: that was the bell!", "Let three of them tell the whole way, one sentence each."},
}
