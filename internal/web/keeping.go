package web

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strconv"
	"time"

	"waxplanus/internal/files"
	"waxplanus/internal/shop"
	"waxplanus/internal/shop/cars"
	"waxplanus/internal/shop/keep"
	"waxplanus/internal/web/api"
	"waxplanus/internal/wording"
)

// stream is an answer that is written as it is made, however long that takes.
type stream struct {
	mime, name string
	size       int64 // 0 where nobody knows before
	write      func(w io.Writer) error
}

func (f stream) visit(w http.ResponseWriter) error {
	_ = http.NewResponseController(w).SetWriteDeadline(time.Time{}) // else the usual one holds
	w.Header().Set("Content-Type", f.mime)
	w.Header().Set("Content-Disposition", `attachment; filename="`+f.name+`"`)
	if f.size > 0 {
		w.Header().Set("Content-Length", strconv.FormatInt(f.size, 10))
	}
	w.WriteHeader(http.StatusOK)
	if err := f.write(w); err != nil {
		// The head has gone out: only an answer that breaks off tells that it is not whole.
		_ = http.NewResponseController(w).SetWriteDeadline(time.Unix(1, 0))
	}
	return nil
}

// VisitGetCarFileResponse writes the answer.
func (f stream) VisitGetCarFileResponse(w http.ResponseWriter) error { return f.visit(w) }

// VisitGetBackupResponse writes the answer.
func (f stream) VisitGetBackupResponse(w http.ResponseWriter) error { return f.visit(w) }

const zipMime = "application/zip"

// GetCarFile is a whole car as a file.
func (s *Server) GetCarFile(ctx context.Context, r api.GetCarFileRequestObject) (api.GetCarFileResponseObject, error) {
	if err := s.shop.HasCar(ctx, r.CarId); err != nil {
		return nil, err
	}
	return stream{mime: zipMime, name: "car.waxplanus.zip", write: func(w io.Writer) error { return s.shop.CarFile(ctx, r.CarId, "Wax Planus "+s.version, w) }}, nil
}

func (v view) waiting(c *keep.Waiting) api.WaitingCar {
	out := api.WaitingCar{Id: c.ID, Name: c.Name, Body: c.Body, Colour: c.Colour, At: c.At, Panels: c.Panels, Readings: c.Readings, Marks: c.Marks, Passes: c.Passes, Photos: c.Photos, PhotosMissing: c.PhotosMissing,
		Known: c.Known, Closed: c.Closed, MayBePutTo: c.Known && !c.Closed && c.Diverged == "" && len(c.Changes) > 0, Notes: v.CarNotes(c)}
	out.Changes = each(c.Changes, func(one keep.CarChange) api.NamedText {
		name, text := wording.CarChange(one)
		return api.NamedText{Name: name, Text: text}
	})
	return out
}

// ReceiveCar takes a file of a car.
func (s *Server) ReceiveCar(ctx context.Context, r api.ReceiveCarRequestObject) (api.ReceiveCarResponseObject, error) {
	c, err := s.shop.ReceiveCar(ctx, r.Body)
	if err != nil {
		return nil, err
	}
	return api.ReceiveCar201JSONResponse(viewOf(ctx).waiting(c)), nil
}

// KeepCar keeps a file that waits.
func (s *Server) KeepCar(ctx context.Context, r api.KeepCarRequestObject) (api.KeepCarResponseObject, error) {
	facts, err := s.shop.KeepCar(ctx, r.ImportId, r.Body.As == api.AsNew)
	if err != nil {
		return nil, err
	}
	c, err := s.shop.Car(ctx, facts.ID)
	if err != nil {
		return nil, err
	}
	return api.KeepCar200JSONResponse(viewOf(ctx).carOf(c.OfCar, c.Next)), nil
}

// DropImport lets a file that waits go.
func (s *Server) DropImport(_ context.Context, r api.DropImportRequestObject) (api.DropImportResponseObject, error) {
	return api.DropImport204Response{}, s.shop.DropIncoming(r.ImportId)
}

// Search finds cars, marks and readings.
func (s *Server) Search(ctx context.Context, r api.SearchRequestObject) (api.SearchResponseObject, error) {
	const usual = 40
	most := usual
	if r.Params.Limit != nil {
		most = *r.Params.Limit
	}
	all, err := s.shop.Find(ctx, r.Params.Q, most)
	if err != nil {
		return nil, err
	}
	v := viewOf(ctx)
	return api.Search200JSONResponse(each(all, func(f cars.Found) api.FoundThing {
		text, link := v.Found(f)
		out := api.FoundThing{Kind: api.FoundThingKind(f.Kind), Ref: f.Ref, CarId: f.CarID, CarName: f.CarName, Text: text, Link: link, HandedOverAt: f.HandedOverAt}
		if f.PanelID != "" {
			out.PanelId, out.PanelName = &f.PanelID, &f.PanelName
		}
		return out
	})), nil
}

func (s *Server) backups(ctx context.Context) (api.Backups, error) {
	all, err := s.shop.Backups(ctx)
	if err != nil {
		return api.Backups{}, err
	}
	folder := s.shop.BackupFolder()
	return api.Backups{Rule: api.BackupRule{Daily: all.Daily, Keep: all.Keep}, Folder: folder, Text: wording.Backups(folder),
		Made: each(all.Made, func(b keep.Backup) api.Backup {
			return api.Backup{Name: b.Name, At: b.At, Bytes: b.Bytes, Daily: b.Daily}
		})}, nil
}

// ListBackups are those that lie beside the database.
func (s *Server) ListBackups(ctx context.Context, _ api.ListBackupsRequestObject) (api.ListBackupsResponseObject, error) {
	out, err := s.backups(ctx)
	return api.ListBackups200JSONResponse(out), err
}

// MakeBackup makes one.
func (s *Server) MakeBackup(ctx context.Context, _ api.MakeBackupRequestObject) (api.MakeBackupResponseObject, error) {
	if _, err := s.shop.MakeBackup(ctx, "Wax Planus "+s.version, false); err != nil {
		return nil, err
	}
	out, err := s.backups(ctx)
	return api.MakeBackup201JSONResponse(out), err
}

// SetBackups changes how often one is made.
func (s *Server) SetBackups(ctx context.Context, r api.SetBackupsRequestObject) (api.SetBackupsResponseObject, error) {
	if err := s.shop.SetBackups(ctx, keep.BackupRule{Daily: r.Body.Daily, Keep: r.Body.Keep}); err != nil {
		return nil, err
	}
	out, err := s.backups(ctx)
	return api.SetBackups200JSONResponse(out), err
}

// GetBackup is one backup.
func (s *Server) GetBackup(_ context.Context, r api.GetBackupRequestObject) (api.GetBackupResponseObject, error) {
	path, err := s.shop.BackupPath(r.Name)
	if err != nil {
		return nil, err
	}
	f, err := os.Open(path)
	if err != nil {
		return nil, err
	}
	info, err := f.Stat()
	if err != nil {
		return nil, err
	}
	return stream{mime: zipMime, name: filepath.Base(path), size: info.Size(), write: func(w io.Writer) error {
		defer func() { _ = f.Close() }() // read only
		_, err := io.Copy(w, f)
		return err
	}}, nil
}

// CheckBackup looks one through.
func (s *Server) CheckBackup(ctx context.Context, r api.CheckBackupRequestObject) (api.CheckBackupResponseObject, error) {
	path, err := s.shop.BackupPath(r.Name)
	if err != nil {
		return nil, err
	}
	c, err := keep.CheckBackup(path)
	if err != nil {
		return nil, keep.BackupFault(err)
	}
	return api.CheckBackup200JSONResponse{Text: viewOf(ctx).CheckedBackup(c), Cars: c.Cars, Photos: c.Photos, At: c.At}, nil
}

// Verify looks the whole shop through.
func (s *Server) Verify(ctx context.Context, _ api.VerifyRequestObject) (api.VerifyResponseObject, error) {
	l, err := s.shop.Verify(ctx)
	if err != nil {
		return nil, err
	}
	return api.Verify200JSONResponse(verified(l)), nil
}

func verified(l *keep.Looked) api.Verified {
	return api.Verified{Text: wording.Verified(l), Cars: l.Cars, Panels: l.Panels, Readings: l.Readings, Plans: l.Plans, Passes: l.Passes, Photos: l.Photos, Seals: l.Seals,
		Faults: each(l.Faults, func(f keep.Fault) api.NamedText { return api.NamedText{Name: f.Where, Text: f.What} })}
}

// GetCarSchema is the schema of a car's document.
func (s *Server) GetCarSchema(context.Context, api.GetCarSchemaRequestObject) (api.GetCarSchemaResponseObject, error) {
	out := &fileAnswer{mime: "application/schema+json"}
	out.body.Write(files.CarSchema)
	return out, nil
}

// VisitGetCarSchemaResponse writes the answer.
func (f *fileAnswer) VisitGetCarSchemaResponse(w http.ResponseWriter) error { return f.write(w) }

// VisitGetContractResponse writes the answer.
func (f *fileAnswer) VisitGetContractResponse(w http.ResponseWriter) error { return f.write(w) }

// GetContract is the contract.
func (s *Server) GetContract(context.Context, api.GetContractRequestObject) (api.GetContractResponseObject, error) {
	doc, err := withExamples()
	if err != nil {
		return nil, err
	}
	raw, err := doc.MarshalJSON()
	if err != nil {
		return nil, err
	}
	out := &fileAnswer{mime: "application/json"}
	out.body.Write(raw)
	return out, nil
}

// Import says what is in a file of a car and what keeping it in a shop would change, as JSON or
// in words; as is new or same where it is kept too, else empty.
func Import(ctx context.Context, of *shop.Shop, open func() (io.ReadCloser, error), as string, asJSON bool, out io.Writer) (err error) {
	if as != "" && as != string(api.AsNew) && as != string(api.AsSame) {
		return BadInput(wording.ImportAs)
	}
	in, err := open()
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, in.Close()) }()
	c, err := of.ReceiveCar(ctx, in)
	if err != nil {
		return InWords(err)
	}
	v := view{}
	w := v.waiting(c)
	if as == "" {
		if err := of.DropIncoming(c.ID); err != nil {
			return err
		}
	} else if facts, err := of.KeepCar(ctx, c.ID, as == string(api.AsNew)); err != nil {
		return InWords(err)
	} else {
		w.Id = facts.ID // of the car from now on
	}
	if asJSON {
		e := json.NewEncoder(out)
		e.SetIndent("", "  ")
		return e.Encode(w)
	}
	for _, line := range v.Waiting(c, as != "") {
		fmt.Fprintln(out, line)
	}
	return nil
}

// VerifyJSON looks a shop through, and says what was found as JSON or in words; fine says that
// nothing is wrong.
func VerifyJSON(ctx context.Context, of *shop.Shop, asJSON bool, out io.Writer) (fine bool, err error) {
	l, err := of.Verify(ctx)
	if err != nil {
		return false, err
	}
	found := verified(l)
	if asJSON {
		e := json.NewEncoder(out)
		e.SetIndent("", "  ")
		return len(found.Faults) == 0, e.Encode(found)
	}
	for _, f := range found.Faults {
		fmt.Fprintf(out, "%s: %s\n", f.Name, f.Text)
	}
	fmt.Fprintln(out, found.Text)
	return len(found.Faults) == 0, nil
}
