package tidy

// spread gives the positions nearest to those wished, by weighted squares, that
// keep an order and the least distances in it: isotonic regression by pooling
// adjacent violators (Kruskal, Nonmetric multidimensional scaling: a numerical
// method, 1964). Apart holds the distance of each from the one before it.
func spread(wish, weight, apart []float64) []float64 {
	return new(spreader).spread(wish, weight, apart)
}

// spreader spreads again and again without asking for memory each time.
type spreader struct {
	offset, at []float64
	pools      []pool
}

// pool is what stands at its least distances.
type pool struct {
	sum, weight float64
	count       int
}

// spread does as the function of that name; what it gives holds until it is called again.
func (s *spreader) spread(wish, weight, apart []float64) []float64 {
	s.offset, s.at, s.pools = s.offset[:0], s.at[:0], s.pools[:0]
	offset := 0.0
	for i := range wish {
		if i > 0 {
			offset += apart[i]
		}
		s.offset = append(s.offset, offset)
		w := max(weight[i], 1e-6)
		s.pools = append(s.pools, pool{(wish[i] - offset) * w, w, 1})
		for n := len(s.pools); n > 1; n-- {
			a, b := s.pools[n-2], s.pools[n-1]
			if a.sum/a.weight <= b.sum/b.weight {
				break
			}
			s.pools = append(s.pools[:n-2], pool{a.sum + b.sum, a.weight + b.weight, a.count + b.count})
		}
	}
	for _, p := range s.pools {
		for range p.count {
			s.at = append(s.at, p.sum/p.weight+s.offset[len(s.at)])
		}
	}
	return s.at
}
