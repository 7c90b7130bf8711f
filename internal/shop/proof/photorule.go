package proof

import (
	"context"
	"encoding/json"
	"time"

	"waxplanus/internal/shop/refuse"
	"waxplanus/internal/store"
)

// PhotoRule is how long the files of photos are kept, in days: those of a car after it was
// handed over, and struck out ones; 0 for as long as the shop is. What was read from them stays.
type PhotoRule struct {
	AfterHandOver int `json:"after_hand_over"`
	Struck        int `json:"struck"`
}

// UsualPhotoRule lets go only what was struck out (judgement).
var UsualPhotoRule = PhotoRule{Struck: 30}

const (
	photoSetting = "keep_photos"
	mostDays     = 36500
	dropsAtOnce  = 200
)

// PhotosKept are how many photos lie beside the database, what they take, and the rule.
type PhotosKept struct {
	store.PhotoSpace
	PhotoRule
}

// PhotosKept of the shop.
func (s *Service) PhotosKept(ctx context.Context) (PhotosKept, error) {
	out := PhotosKept{PhotoRule: UsualPhotoRule}
	text, err := s.Store.Setting(ctx, photoSetting, "")
	if err == nil && text != "" {
		err = json.Unmarshal([]byte(text), &out.PhotoRule)
	}
	if err != nil {
		return out, err
	}
	out.PhotoSpace, err = s.Store.PhotoSpace(ctx)
	return out, err
}

// SetPhotoRule changes the rule; nothing is deleted before DropStale.
func (s *Service) SetPhotoRule(ctx context.Context, r PhotoRule) error {
	for field, days := range map[string]int{"after_hand_over_days": r.AfterHandOver, "struck_days": r.Struck} {
		if days < 0 || days > mostDays {
			return refuse.Because(refuse.BadKeepPhotos, field, mostDays)
		}
	}
	raw, err := json.Marshal(r)
	if err != nil {
		return err
	}
	return s.Store.SetSetting(ctx, photoSetting, string(raw))
}

// DropStale deletes the files of photos that the rule lets go, and says of how many.
func (s *Service) DropStale(ctx context.Context) (int, error) {
	kept, err := s.PhotosKept(ctx)
	if err != nil {
		return 0, err
	}
	before := func(days int) time.Time {
		if days == 0 {
			return time.Time{} // nothing is as old as that
		}
		return s.Now().AddDate(0, 0, -days)
	}
	n := 0
	for {
		stale, err := s.Store.StalePhotos(ctx, before(kept.AfterHandOver), before(kept.Struck), dropsAtOnce)
		if err != nil || len(stale) == 0 {
			return n, err
		}
		for _, p := range stale {
			last, err := s.Store.DropPhoto(ctx, p, s.Now())
			if err != nil {
				return n, err
			}
			if last {
				if err := s.Store.Pictures().Drop(p.Hash); err != nil {
					return n, err
				}
			}
			n++
		}
	}
}
