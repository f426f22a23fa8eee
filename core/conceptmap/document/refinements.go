package document

import (
	cm "mevrin/core/conceptmap"
	"regexp"
)

func oneOf[S ~string](also []S, all ...S) object { return object{"enum": append(all, also...)} }

func shaped(form *regexp.Regexp) object { return object{"type": "string", "pattern": form.String()} }

const momentPattern = `-?[0-9]{1,12}(\.[0-9]{1,6}|-[0-9]{2}(-[0-9]{2})?)?`

// forms are the schemas of Forms.
var forms = map[string]any{
	"rank":     object{"type": "string", "maxLength": cm.MaxRank, "pattern": "^[0-9A-Za-z]*[1-9A-Za-z]$"},
	"time":     object{"type": "string", "maxLength": 60, "pattern": "^$|^" + momentPattern + "(/" + momentPattern + ")?$"},
	"moment":   shaped(cm.MomentPattern),
	"duration": object{"type": "object", "additionalProperties": false, "required": []string{"unit"}, "properties": object{"value": object{"type": "number", "minimum": 0, "exclusiveMaximum": 1e12}, "unit": object{"enum": []string{cm.UnitMinutes, cm.UnitHours, cm.UnitDays, cm.UnitWeeks}}}},
}

var coordinate = object{"type": "number", "minimum": -cm.FarthestPlace, "maximum": cm.FarthestPlace}

// eitherOrZero is a number that is 0 or within bounds.
func eitherOrZero(least, most float64) object {
	return object{"anyOf": []any{object{"const": 0}, object{"type": "number", "minimum": least, "maximum": most}}}
}

// refinements are what the types of a document cannot say, by the names of definitions.
var refinements = map[string]object{
	"id":         shaped(cm.IDPattern),
	"lang":       shaped(cm.LangPattern),
	"colour":     oneOf(cm.Colours, ""),
	"outline":    oneOf(cm.Outlines),
	"stroke":     oneOf(cm.Strokes),
	"icon":       shaped(cm.IconPattern),
	"role":       object{"pattern": "^$|" + cm.RolePattern.String()},
	"hold":       oneOf([]cm.Hold{cm.HoldNone, cm.HoldHand, cm.HoldPin}),
	"hand":       oneOf([]cm.Hand{cm.HandFull, cm.HandPlain}),
	"pattern":    oneOf(cm.Patterns, cm.PatternNone),
	"align":      oneOf([]cm.Align{cm.AlignCentre, cm.AlignLeft, cm.AlignRight}),
	"line":       oneOf([]cm.Line{cm.LineAuto, cm.LineStraight, cm.LineCurved, cm.LineStepped}),
	"verdict":    oneOf(cm.Verdicts),
	"layout":     oneOf(cm.Layouts),
	"distance":   oneOf(cm.Distances),
	"countable":  oneOf(cm.Countables),
	"step":       oneOf(cm.Steps, ""),
	"earns":      oneOf(cm.Earning),
	"heads":      oneOf([]cm.Heads{cm.HeadsOne, cm.HeadsBoth, cm.HeadsNone}),
	"theme":      oneOf(cm.Themes, cm.ThemeOwn),
	"paper":      oneOf(cm.Papers),
	"colourBy":   oneOf(cm.ColouredBy),
	"match":      oneOf([]cm.Match{cm.MatchAll, cm.MatchAny}),
	"about":      oneOf([]cm.About{cm.AboutKind, cm.AboutTag, cm.AboutRegion, cm.AboutBranch, cm.AboutLevel, cm.AboutWords, cm.AboutHas}),
	"entity":     oneOf([]cm.Entity{cm.EntityConcept, cm.EntityLink, cm.EntityRegion, cm.EntityMap, cm.EntityStop}),
	"point":      {"properties": object{"x": coordinate, "y": coordinate}},
	"noteCard":   {"minProperties": 1, "properties": object{"off": instead{"type": "object", "additionalProperties": false, "properties": object{"x": nearby, "y": nearby}}}},
	"paint":      {"minProperties": 1},
	"amount":     {"properties": object{"value": object{"exclusiveMinimum": -1e12, "exclusiveMaximum": 1e12}, "unit": object{"maxLength": cm.MaxUnit}}},
	"ownColours": {"properties": object{"paper": shade6, "slip": shade6, "ink": shade6}},
	"backdrop":   {"required": []string{"file", "at", "wide"}, "properties": object{"wide": object{"minimum": cm.MinPicture, "maximum": cm.FarthestPlace}}},
	"kind": {
		"if":   object{"properties": object{"links": object{"const": true}}, "required": []string{"links"}},
		"then": object{"properties": object{"outline": object{"const": ""}, "icon": object{"const": ""}}},
		"else": object{"properties": object{"stroke": object{"const": ""}}},
	},
	"condition": {"allOf": []any{
		about(object{"enum": []cm.About{cm.AboutKind, cm.AboutTag, cm.AboutRegion}}, nil, object{"pattern": "^$|" + cm.IDPattern.String()}),
		about(object{"const": cm.AboutBranch}, needsValue, object{"pattern": cm.IDPattern.String()}),
		about(object{"const": cm.AboutLevel}, needsValue, object{"pattern": "^[0-9]{1,4}$"}),
		about(object{"const": cm.AboutWords}, needsValue, object{"minLength": 1, "maxLength": cm.MaxValue}),
		about(object{"const": cm.AboutHas}, needsValue, object{"enum": cm.Has}),
	}},
	"table": {"properties": object{"rows": object{"minItems": 1, "maxItems": cm.MaxRows,
		"items": object{"minItems": 1, "maxItems": cm.MaxColumns, "items": object{"maxLength": cm.MaxCell}}}}},
	"task": {"properties": object{"what": object{"maxLength": cm.MaxTaskWords}, "who": object{"maxLength": cm.MaxWho}}},
	"concept": {"properties": object{
		"size": object{"minimum": cm.MinSize, "maximum": cm.MaxSize}, "width": eitherOrZero(cm.MinWidth, cm.MaxWidth),
	}},
	"link": {"properties": object{
		"from": object{"minItems": 1, "maxItems": cm.MaxEnds}, "to": object{"minItems": 1, "maxItems": cm.MaxEnds},
		"along": object{"minimum": 0, "exclusiveMaximum": 1},
		"bends": object{"additionalProperties": object{"minItems": 1, "maxItems": cm.MaxBends}},
	}},
	"file": {"properties": object{
		"hash": shaped(cm.HashPattern), "type": shaped(cm.MediaTypePattern), "size": object{"minimum": 0, "maximum": cm.MaxFile},
		"w": object{"minimum": 0, "maximum": cm.MaxPixels}, "h": object{"minimum": 0, "maximum": cm.MaxPixels},
	}},
	"source": {
		"anyOf": []any{object{"required": []string{"url"}}, object{"required": []string{"file"}}, object{"required": []string{"cite"}}},
		"properties": object{
			"url":   object{"maxLength": cm.MaxAddress, "pattern": "^([Hh][Tt][Tt][Pp][Ss]?://|$)"},
			"title": object{"maxLength": cm.MaxSourceName}, "says": object{"maxLength": cm.MaxSourceSays}, "licence": object{"maxLength": cm.MaxSourceName},
			"wide": eitherOrZero(cm.MinPicture, cm.MaxPicture),
		},
	},
	"citation": {"properties": object{
		"author": object{"maxLength": cm.MaxSourceSays}, "year": object{"maxLength": cm.MaxSourceSays},
		"title": object{"minLength": 1, "maxLength": cm.MaxSourceSays}, "place": object{"maxLength": cm.MaxSourceSays},
	}},
	"comment": {
		"if":   object{"required": []string{"answers"}, "properties": object{"answers": object{"minLength": 1}}},
		"then": object{"properties": object{"on": false, "settled": object{"const": false}}},
		"else": object{"required": []string{"on"}},
	},
	"ref": {
		"properties": object{"id": instead{"type": "string"}},
		"if":         object{"properties": object{"kind": object{"const": cm.EntityMap}}},
		"then":       object{"properties": object{"id": object{"const": ""}}},
		"else":       object{"required": []string{"id"}, "properties": object{"id": object{"pattern": cm.IDPattern.String()}}},
		"required":   []string{"kind"},
	},
	"stop": {"properties": object{"refs": object{"items": object{"properties": object{"kind": object{"enum": []cm.Entity{cm.EntityConcept, cm.EntityLink, cm.EntityRegion, cm.EntityMap}}}}}}},
}

var (
	nearby     = object{"type": "number", "minimum": -cm.FarthestNote, "maximum": cm.FarthestNote}
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
