package conceptmap_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	cm "mevrin/core/conceptmap"
)

func TestTimesAreReadAsTheyAreWritten(t *testing.T) {
	for typed, want := range map[string]string{
		"": "", " 1762 ": "1762", "-44": "-44", "−44": "-44", "2.5": "2.5", "2026-11": "2026-11", "2026-11-24": "2026-11-24",
		"1760/1764": "1760/1764", "1760 – 1764": "1760/1764", "1760 to 1764": "1760/1764", "2026-01 / 2026-03": "2026-01/2026-03",
	} {
		got, err := cm.CleanWhen(typed)
		assert.NoError(t, err, typed)
		assert.Equal(t, want, got, typed)
		again, err := cm.CleanWhen(got)
		assert.NoError(t, err)
		assert.Equal(t, got, again)
	}
	for _, typed := range []string{"soon", "2026-13", "2026-02-30", "2026-11-24/2026-11-01", "1/2/3", "12345678901234567", "<b>", "1762/", "NaN", "1e5"} {
		_, err := cm.CleanWhen(typed)
		assert.Error(t, err, typed)
	}
	span := func(when string) [2]float64 {
		from, to, ok := (&cm.Concept{When: when}).Span()
		assert.True(t, ok)
		return [2]float64{from, to}
	}
	assert.Equal(t, [2]float64{1762, 1762}, span("1762"))
	assert.Equal(t, [2]float64{-44, 2.5}, span("-44/2.5"))
	assert.Equal(t, [2]float64{2024 + 31.0/366, 2024 + 60.0/366}, span("2024-02"), "a leap year")
	assert.Equal(t, [2]float64{2026, 2026 + 1.0/365}, span("2026-01-01"))
	_, _, ok := (&cm.Concept{}).Span()
	assert.False(t, ok)
}
