package goal

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"gonum.org/v1/gonum/blas/blas64"
	"gonum.org/v1/gonum/floats"
	"gonum.org/v1/gonum/mat"
)

const (
	tol       = 1e-10 // the largest reduced cost at which a solution counts as optimal
	tolPivot  = 1e-9  // the least that a pivot may be
	mostMoves = 5000  // far more than programmes of some fifty columns take
)

var errMoves = errors.New("no optimum was found")

// simplex minimises c·y with A y = b and y ≥ 0 from a feasible basis, a column of each row. It keeps the tableau and
// moves it from basis to basis; the values are solved anew from the last, so that no error of the moves stays in them. Why it is
// not gonum's: docs/decisions/0026. Reference: Dantzig, Linear Programming and Extensions (1963), chapter 5; Bland, New
// Finite Pivoting Rules for the Simplex Method (1977), where a move would stand still.
func simplex(c []float64, a *mat.Dense, b []float64, basis []int) ([]float64, error) {
	rows, cols := a.Dims()
	t := tableau{mat.NewDense(rows+1, cols+1, nil), slices.Clone(basis)}
	t.Slice(0, rows, 0, cols).(*mat.Dense).Copy(a)
	for i, v := range b {
		t.Set(i, cols, v)
	}
	copy(t.RawRowView(rows), c)
	for i, j := range basis {
		if math.Abs(t.At(i, j)) < tolPivot {
			return nil, fmt.Errorf("row %d: its column %d does not hold it", i, j)
		}
		t.pivot(i, j)
	}
	stands := false // the last move did
	for range mostMoves {
		j := t.enters(stands)
		if j < 0 {
			return t.values(a, b)
		}
		i := t.leaves(j)
		if i < 0 {
			return nil, fmt.Errorf("column %d is free to grow", j)
		}
		stands = t.At(i, cols) <= tol*t.At(i, j)
		t.pivot(i, j)
	}
	return nil, errMoves
}

// tableau is the rows, with the sides in the last column, and the reduced costs in the last row.
type tableau struct {
	*mat.Dense
	basis []int // of each row
}

// pivot makes column j the basic one of row i.
func (t *tableau) pivot(i, j int) {
	rows, _ := t.Dims()
	row := t.RawRowView(i)
	floats.Scale(1/row[j], row)
	column := make([]float64, rows)
	mat.Col(column, j, t)
	column[i] = 0
	raw := t.RawMatrix()
	blas64.Ger(-1, blas64.Vector{N: rows, Data: column, Inc: 1}, blas64.Vector{N: len(row), Data: row, Inc: 1}, raw)
	for k := range rows { // exactly, not nearly
		t.Set(k, j, 0)
	}
	t.Set(i, j, 1)
	t.basis[i] = j
}

// enters is the column of the least reduced cost, or the first below 0 where the last move stood still; -1 none.
func (t *tableau) enters(stands bool) int {
	rows, cols := t.Dims()
	costs := t.RawRowView(rows - 1)[:cols-1]
	j := floats.MinIdx(costs)
	if stands {
		j = slices.IndexFunc(costs, func(c float64) bool { return c < -tol })
	}
	if j < 0 || costs[j] >= -tol {
		return -1
	}
	return j
}

// leaves is the row that a growing column empties first, of several that whose basic column comes first; -1 none.
func (t *tableau) leaves(j int) int {
	rows, cols := t.Dims()
	best, at := math.Inf(1), -1
	for i := range rows - 1 {
		by := t.At(i, j)
		if by <= tolPivot {
			continue
		}
		room := math.Max(0, t.At(i, cols-1)) / by
		if room < best-tol || room < best+tol && t.basis[i] < t.basis[at] {
			best, at = math.Min(best, room), i
		}
	}
	return at
}

// values are those of the basic columns.
func (t *tableau) values(a *mat.Dense, b []float64) ([]float64, error) {
	rows, cols := a.Dims()
	of := mat.NewDense(rows, rows, nil)
	for i, j := range t.basis {
		for k := range rows {
			of.Set(k, i, a.At(k, j))
		}
	}
	var x mat.VecDense
	if err := x.SolveVec(of, mat.NewVecDense(rows, b)); err != nil {
		return nil, err
	}
	y := make([]float64, cols)
	for i, j := range t.basis {
		y[j] = math.Max(0, x.AtVec(i))
	}
	return y, nil
}
