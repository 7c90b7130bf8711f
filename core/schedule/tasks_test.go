package schedule_test

import (
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	. "waxplanus/core/schedule"
)

func panelWork(key string, rank int) PanelWork {
	return PanelWork{Key: key, Rank: rank, Read: 12, Mask: 10, Clean: 5, Check: 10, Steps: []StepWork{
		{No: 1, Kind: Block, Minutes: 50, Grain: 12.6}, {No: 2, Kind: Refine, Minutes: 30, Machine: 20, Tool: "orbital", Grain: 6}, {No: 3, Kind: Polish, Minutes: 260, Machine: 200, Tool: "orbital"}}}
}

func TestACarsTasksFollowTheOrderOfWork(t *testing.T) {
	soft := monday.Add(30 * time.Hour)
	c := CarWork{Car: "van", In: monday, Wash: 60, Look: 20, Plan: 15, Coats: 2, Coat: 25, Between: 2, HandOver: 15, Panels: []PanelWork{panelWork("roof", 0), panelWork("side", 2)}}
	c.Panels[1].Runs, c.Panels[1].Soft, c.Panels[1].Sand = 25, soft, monday.Add(4*time.Hour)
	tasks := c.Tasks()
	at := map[string]int{}
	minutes := 0.0
	for i, task := range tasks {
		if _, twice := at[task.Key]; twice {
			t.Fatalf("%s is there twice", task.Key)
		}
		at[task.Key] = i
		minutes += task.Minutes
		for _, a := range task.After {
			if k, there := at[a.Key]; !there || k >= i {
				t.Errorf("%s comes after %s, which is not before it", task.Key, a.Key)
			}
		}
		if task.Minutes > 120 || task.Machine > 75 {
			t.Errorf("%s takes %v min, %v of a machine, in one part", task.Key, task.Minutes, task.Machine)
		}
	}
	if want := 60 + 20 + 15 + 50 + 15 + 25.0 + 2*(12+10+50+30+260+5+10); math.Abs(minutes-want) > 1e-9 {
		t.Errorf("%v min, want %v", minutes, want)
	}
	r := Make(usual(tasks, Person{Name: "Ada", Week: UsualWeek()}, Person{Name: "Bo", Week: UsualWeek(), Coarsest: 6}))
	holds(t, usual(tasks, Person{Name: "Ada", Week: UsualWeek()}, Person{Name: "Bo", Week: UsualWeek(), Coarsest: 6}), r)
	placed := byKey(r)
	if p := placed["van/side/runs/0"]; p.Start.Before(soft) {
		t.Errorf("a soft run is cut at %v", p.Start)
	}
	if a, b := placed["van//coat/0"], placed["van//second_coat/0"]; b.Start.Sub(a.End) < 2*time.Hour {
		t.Errorf("the second coat comes %v after the first", b.Start.Sub(a.End))
	}
	if roof, side := placed["van/roof/block/1"], placed["van/side/block/1"]; roof.Start.After(side.Start) {
		t.Error("the side is levelled before the roof")
	}
	// Tape goes with masking, and only where a panel is masked.
	c.Panels[0].Tape, c.Panels[1].Tape = 9, 4
	for _, masked := range []float64{13, 4} {
		metres := 0.0
		for _, task := range c.Tasks() {
			if metres += task.Much; (task.Much > 0) != (task.Kind == Mask) || task.Kind == Mask && task.Item != "tape" {
				t.Errorf("%s takes %v of %q", task.Key, task.Much, task.Item)
			}
		}
		if math.Abs(metres-masked) > 1e-9 {
			t.Errorf("%v m of tape, want %v", metres, masked)
		}
		c.Panels[0].Mask = 0
	}
	// Nothing to do leaves nothing, and what comes after it waits for what came before.
	c.Look, c.Plan, c.Coats, c.Panels[0].Mask, c.Panels[1].Mask = 0, 0, 0, 0, 0
	for _, task := range c.Tasks() {
		if task.Kind == Look || task.Kind == Plan || task.Kind == Coat {
			t.Errorf("%s is planned", task.Key)
		}
		if task.Key == "van/roof/block/1" && !slices.Equal(task.After, []Arc{{Key: "van//read/0"}}) {
			t.Errorf("%+v", task.After)
		}
	}
}

// By the school of one stage over all panels no panel is refined before all are levelled.
func TestOneStageGoesOverAllPanelsByHouseRule(t *testing.T) {
	c := CarWork{Car: "van", Panels: []PanelWork{panelWork("roof", 0), panelWork("left", 2), panelWork("right", 2)}}
	two := []Person{{Name: "Ada", Week: UsualWeek()}, {Name: "Bo", Week: UsualWeek()}}
	early := func(stagewise bool) (n int) {
		c.Stagewise = stagewise
		r := Make(usual(c.Tasks(), two...))
		levelled := time.Time{}
		for _, p := range r.Placed {
			if strings.Contains(p.Key, "/block/") && p.End.After(levelled) {
				levelled = p.End
			}
		}
		for _, p := range r.Placed {
			if strings.Contains(p.Key, "/refine/") && p.Start.Before(levelled) {
				n++
			}
		}
		return n
	}
	if panel, stage := early(false), early(true); panel == 0 || stage != 0 {
		t.Errorf("%d panels are refined early panel by panel, %d stage by stage", panel, stage)
	}
}
