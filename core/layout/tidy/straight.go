package tidy

// spread gives the positions nearest to those wished, by weighted squares, that
// keep an order and the least distances in it: isotonic regression by pooling
// adjacent violators (Kruskal, Nonmetric multidimensional scaling: a numerical
// method, 1964). Apart holds the distance of each from the one before it.
func spread(wish, weight, apart []float64) []float64 {
	n := len(wish)
	type pool struct {
		sum, weight float64
		count       int
	}
	offset := make([]float64, n)
	for i := 1; i < n; i++ {
		offset[i] = offset[i-1] + apart[i]
	}
	pools := make([]pool, 0, n)
	for i := range n {
		w := max(weight[i], 1e-6)
		pools = append(pools, pool{(wish[i] - offset[i]) * w, w, 1})
		for len(pools) > 1 {
			a, b := pools[len(pools)-2], pools[len(pools)-1]
			if a.sum/a.weight <= b.sum/b.weight {
				break
			}
			pools = append(pools[:len(pools)-2], pool{a.sum + b.sum, a.weight + b.weight, a.count + b.count})
		}
	}
	at := make([]float64, 0, n)
	for _, p := range pools {
		for range p.count {
			at = append(at, p.sum/p.weight+offset[len(at)])
		}
	}
	return at
}
