package practice

import (
	"math"
	"testing"
)

// The verdict lets go what can be done, goes through nothing, and the chances that it
// tells come true.
func TestVerdictsComeTrue(t *testing.T) {
	const jobs = 1500
	for _, k := range JobKinds {
		v := JudgeJobs(k, jobs, 3)
		if share := float64(v.Let) / float64(v.Can); share < 0.85 {
			t.Errorf("%s: %.0f %% of what can be done is let go", k, 100*share)
		}
		if float64(v.Through) > 0.002*jobs+3*math.Sqrt(0.002*jobs) {
			t.Errorf("%s: %d of %d go through", k, v.Through, v.Allowed)
		}
		happened := float64(v.Under) / float64(v.Bound)
		if noise := 3 * math.Sqrt(v.Said/float64(v.Bound)); math.Abs(happened-v.Said) > v.Said/3+noise {
			t.Errorf("%s: %.3f was said of ending under the floor, %.3f happened", k, v.Said, happened)
		}
	}
}
