package shelf

import (
	"encoding/binary"
	"math"
)

// tone is a sound made of partials, each of which dies away.
type tone struct {
	seconds  float64
	partials []partial
}

// partial is one of them: its frequency in hertz, its loudness as a part of 1, and
// the time in seconds in which it falls to a third (1/e).
type partial struct{ hertz, loud, lasts float64 }

// A bell whose prime is 392 Hz. The partials of a well-tuned bell stand to the
// prime as 1:2 (hum), 6:5 (tierce), 3:2 (quint) and 2:1 (nominal): Lord Rayleigh,
// On bells, Philosophical Magazine 29 (1890); the higher ones die away sooner.
var bellPartials = map[string]partial{
	"tone-hum": {196, 0.5, 2.6}, "tone-prime": {392, 0.5, 1.5}, "tone-tierce": {470.4, 0.5, 1.2}, "tone-quint": {588, 0.35, 0.8}, "tone-nominal": {784, 0.5, 0.6},
}

var tones = func() map[string]tone {
	all := map[string]tone{}
	var whole []partial
	for _, name := range []string{"tone-hum", "tone-prime", "tone-tierce", "tone-quint", "tone-nominal"} {
		p := bellPartials[name]
		all[name] = tone{2.4, []partial{p}}
		p.loud *= 0.45
		whole = append(whole, p)
	}
	all["tone-bell"] = tone{3, whole}
	all["tone-loud"] = tone{1.2, []partial{{330, 0.8, 2}}}
	all["tone-soft"] = tone{1.2, []partial{{330, 0.08, 2}}}
	return all
}()

const rate = 16000 // samples a second

// wav gives the tone as a WAV file: 16 bits, one channel.
func (t tone) wav() []byte {
	n := int(t.seconds * rate)
	data := make([]byte, 0, 44+2*n)
	le := binary.LittleEndian
	data = append(data, "RIFF"...)
	data = le.AppendUint32(data, uint32(36+2*n))
	data = append(data, "WAVEfmt "...)
	data = le.AppendUint32(data, 16)
	data = le.AppendUint16(data, 1)
	data = le.AppendUint16(data, 1)
	data = le.AppendUint32(data, rate)
	data = le.AppendUint32(data, 2*rate)
	data = le.AppendUint16(data, 2)
	data = le.AppendUint16(data, 16)
	data = append(data, "data"...)
	data = le.AppendUint32(data, uint32(2*n))
	for i := range n {
		at, v := float64(i)/rate, 0.0
		for _, p := range t.partials {
			v += p.loud * math.Exp(-at/p.lasts) * math.Sin(2*math.Pi*p.hertz*at)
		}
		// Neither begin nor end clicks.
		v *= math.Min(1, math.Min(at/0.004, (t.seconds-at)/0.05))
		data = le.AppendUint16(data, uint16(int16(math.Max(-1, math.Min(1, v))*32000)))
	}
	return data
}
