package conceptmap

import "regexp"

func oneOf[S ~string](also []S, all ...S) object { return object{"enum": append(all, also...)} }

func shaped(form *regexp.Regexp) object { return object{"type": "string", "pattern": form.String()} }

const momentPattern = `-?[0-9]{1,12}(\.[0-9]{1,6}|-[0-9]{2}(-[0-9]{2})?)?`

// forms are the schemas of Forms.
var forms = map[string]any{
	"rank":     object{"type": "string", "maxLength": maxRank, "pattern": "^[0-9A-Za-z]*[1-9A-Za-z]$"},
	"time":     object{"type": "string", "maxLength": 60, "pattern": "^$|^" + momentPattern + "(/" + momentPattern + ")?$"},
	"moment":   shaped(momentForm),
	"duration": object{"type": "object", "additionalProperties": false, "required": []string{"unit"}, "properties": object{"value": object{"type": "number", "minimum": 0, "exclusiveMaximum": 1e12}, "unit": object{"enum": []string{UnitMinutes, UnitHours, UnitDays, UnitWeeks}}}},
}

var coordinate = object{"type": "number", "minimum": -FarthestPlace, "maximum": FarthestPlace}

// eitherOrZero is a number that is 0 or within bounds.
func eitherOrZero(least, most float64) object {
	return object{"anyOf": []any{object{"const": 0}, object{"type": "number", "minimum": least, "maximum": most}}}
}

// refinements are what the types of a document cannot say, by the names of definitions.
var refinements = map[string]object{
	"id":         shaped(idForm),
	"lang":       shaped(langForm),
	"colour":     oneOf(Colours, ""),
	"outline":    oneOf(Outlines),
	"stroke":     oneOf(Strokes),
	"icon":       shaped(iconForm),
	"role":       object{"pattern": "^$|" + roleForm.String()},
	"hold":       oneOf([]Hold{HoldNone, HoldHand, HoldPin}),
	"hand":       oneOf([]Hand{HandFull, HandPlain}),
	"pattern":    oneOf(Patterns, PatternNone),
	"align":      oneOf([]Align{AlignCentre, AlignLeft, AlignRight}),
	"line":       oneOf([]Line{LineAuto, LineStraight, LineCurved, LineStepped}),
	"heads":      oneOf([]Heads{HeadsOne, HeadsBoth, HeadsNone}),
	"dress":      oneOf(Dresses, DressOwn),
	"paper":      oneOf(Papers),
	"colourBy":   oneOf(ColouredBy),
	"match":      oneOf([]Match{MatchAll, MatchAny}),
	"about":      oneOf([]About{AboutKind, AboutTag, AboutRegion, AboutBranch, AboutLevel, AboutWords, AboutHas}),
	"entity":     oneOf([]Entity{EntityConcept, EntityLink, EntityRegion, EntityMap}),
	"point":      {"properties": object{"x": coordinate, "y": coordinate}},
	"noteCard":   {"minProperties": 1, "properties": object{"off": instead{"type": "object", "additionalProperties": false, "properties": object{"x": nearby, "y": nearby}}}},
	"paint":      {"minProperties": 1},
	"amount":     {"properties": object{"value": object{"exclusiveMinimum": -1e12, "exclusiveMaximum": 1e12}, "unit": object{"maxLength": MaxUnit}}},
	"ownColours": {"properties": object{"paper": shade6, "slip": shade6, "ink": shade6}},
	"backdrop":   {"required": []string{"file", "at", "wide"}, "properties": object{"wide": object{"minimum": MinPicture, "maximum": FarthestPlace}}},
	"kind": {
		"if":   object{"properties": object{"links": object{"const": true}}, "required": []string{"links"}},
		"then": object{"properties": object{"outline": object{"const": ""}, "icon": object{"const": ""}}},
		"else": object{"properties": object{"stroke": object{"const": ""}}},
	},
	"condition": {"allOf": []any{
		about(object{"enum": []About{AboutKind, AboutTag, AboutRegion}}, nil, object{"pattern": "^$|" + idForm.String()}),
		about(object{"const": AboutBranch}, needsValue, object{"pattern": idForm.String()}),
		about(object{"const": AboutLevel}, needsValue, object{"pattern": "^[0-9]{1,4}$"}),
		about(object{"const": AboutWords}, needsValue, object{"minLength": 1, "maxLength": MaxValue}),
		about(object{"const": AboutHas}, needsValue, object{"enum": Has}),
	}},
	"table": {"properties": object{"rows": object{"minItems": 1, "maxItems": MaxRows,
		"items": object{"minItems": 1, "maxItems": MaxColumns, "items": object{"maxLength": MaxCell}}}}},
	"task": {"properties": object{"what": object{"maxLength": MaxTaskWords}, "who": object{"maxLength": MaxWho}}},
	"concept": {"properties": object{
		"size": object{"minimum": MinSize, "maximum": MaxSize}, "width": eitherOrZero(MinWidth, MaxWidth),
	}},
	"link": {"properties": object{
		"from": object{"minItems": 1, "maxItems": MaxEnds}, "to": object{"minItems": 1, "maxItems": MaxEnds},
		"along": object{"minimum": 0, "exclusiveMaximum": 1},
		"bends": object{"additionalProperties": object{"minItems": 1, "maxItems": MaxBends}},
	}},
	"file": {"properties": object{
		"hash": shaped(hashForm), "type": shaped(typeForm), "size": object{"minimum": 0, "maximum": MaxFile},
		"w": object{"minimum": 0, "maximum": maxPixels}, "h": object{"minimum": 0, "maximum": maxPixels},
	}},
	"source": {
		"anyOf": []any{object{"required": []string{"url"}}, object{"required": []string{"file"}}, object{"required": []string{"cite"}}},
		"properties": object{
			"url":   object{"maxLength": MaxAddress, "pattern": "^([Hh][Tt][Tt][Pp][Ss]?://|$)"},
			"title": object{"maxLength": MaxSourceName}, "says": object{"maxLength": MaxSourceSays}, "licence": object{"maxLength": MaxSourceName},
			"wide": eitherOrZero(MinPicture, MaxPicture),
		},
	},
	"citation": {"properties": object{
		"author": object{"maxLength": MaxSourceSays}, "year": object{"maxLength": MaxSourceSays},
		"title": object{"minLength": 1, "maxLength": MaxSourceSays}, "place": object{"maxLength": MaxSourceSays},
	}},
	"comment": {
		"if":   object{"required": []string{"answers"}, "properties": object{"answers": object{"minLength": 1}}},
		"then": object{"properties": object{"on": false, "settled": object{"const": false}}},
		"else": object{"required": []string{"on"}},
	},
	"ref": {
		"properties": object{"id": instead{"type": "string"}},
		"if":         object{"properties": object{"kind": object{"const": EntityMap}}},
		"then":       object{"properties": object{"id": object{"const": ""}}},
		"else":       object{"properties": object{"id": object{"pattern": idForm.String()}}},
	},
	"stop": {"properties": object{"refs": object{"items": object{"properties": object{"kind": object{"enum": []Entity{EntityConcept, EntityLink}}}}}}},
}

var (
	nearby     = object{"type": "number", "minimum": -FarthestNote, "maximum": FarthestNote}
	shade6     = object{"type": "string", "pattern": "^#[0-9a-f]{6}$"}
	needsValue = []string{"value"}
)

// about is what the value of a condition must be, by what it is about.
func about(which object, required []string, value object) object {
	then := object{"properties": object{"value": value}}
	if required != nil {
		then["required"] = required
	}
	return object{"if": object{"properties": object{"about": which}}, "then": then}
}
