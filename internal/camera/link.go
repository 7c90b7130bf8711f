package camera

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"strings"
	"time"
)

// Link asks one camera.
type Link struct {
	addr   string
	client *http.Client
}

// What is waited for an answer: a photo may take a while.
const (
	aboutWithin = 2 * time.Second
	photoWithin = 40 * time.Second
)

// NewLink is the way to the camera at an address such as UsualAddr.
func NewLink(addr string) *Link {
	if !strings.Contains(addr, "://") {
		addr = "http://" + addr
	}
	return &Link{strings.TrimSuffix(addr, "/"), &http.Client{Timeout: photoWithin}}
}

// Silent says that a camera gave no answer that can be used, and why.
type Silent struct {
	Addr string
	Err  error
}

func (s *Silent) Error() string { return fmt.Sprintf("camera at %s: %v", s.Addr, s.Err) }

// Unwrap gives why.
func (s *Silent) Unwrap() error { return s.Err }

// About asks the camera who it is. All errors are *Silent.
func (l *Link) About(ctx context.Context) (About, error) {
	ctx, cancel := context.WithTimeout(ctx, aboutWithin)
	defer cancel()
	var out About
	data, err := l.ask(ctx, http.MethodGet, pathAbout, nil, mostAnswer)
	if err == nil {
		err = l.understood(json.Unmarshal(data, &out))
	}
	return out, err
}

// Reflection takes a photo of the lamps in a panel, of at most so many bytes.
func (l *Link) Reflection(ctx context.Context, s Subject, most int64) ([]byte, error) {
	return l.ask(ctx, http.MethodPost, pathReflection, &s, most)
}

// Dull takes a photo of a sanded section.
func (l *Link) Dull(ctx context.Context, s Subject, most int64) ([]byte, error) {
	return l.ask(ctx, http.MethodPost, pathDull, &s, most)
}

// Meter reads an instrument at the place of the subject.
func (l *Link) Meter(ctx context.Context, instrument string, s Subject) (float64, error) {
	var out Value
	data, err := l.ask(ctx, http.MethodPost, pathMeter+"?instrument="+url.QueryEscape(instrument), &s, mostAnswer)
	if err == nil {
		err = l.understood(json.Unmarshal(data, &out))
	}
	return out.Value, err
}

func (l *Link) understood(err error) error {
	if err != nil {
		return &Silent{l.addr, err}
	}
	return nil
}

func (l *Link) ask(ctx context.Context, method, path string, what *Subject, most int64) (data []byte, err error) {
	defer func() { err = l.understood(err) }()
	body := []byte(nil)
	if what != nil {
		if body, err = json.Marshal(what); err != nil {
			return nil, err
		}
	}
	req, err := http.NewRequestWithContext(ctx, method, l.addr+path, bytes.NewReader(body))
	if err != nil {
		return nil, err
	}
	req.Header.Set("Content-Type", "application/json")
	answer, err := l.client.Do(req)
	if err != nil {
		return nil, err
	}
	defer func() { _ = answer.Body.Close() }() // it was read
	data, err = io.ReadAll(io.LimitReader(answer.Body, most+1))
	switch {
	case err != nil:
		return nil, err
	case answer.StatusCode != http.StatusOK:
		return nil, fmt.Errorf("it answers %s", answer.Status)
	case int64(len(data)) > most:
		return nil, fmt.Errorf("it sends more than %d bytes", most)
	}
	return data, nil
}
