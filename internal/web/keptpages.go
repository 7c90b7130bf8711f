package web

import (
	"bytes"
	"compress/gzip"
	"context"
	"io"
	"net/http"
	"net/url"
	"strings"

	"github.com/gin-gonic/gin"
)

// keptPaths are the pages of a car that stay as they are once it was handed over.
var keptPaths = map[string]bool{"/api/cars/:carId": true, "/api/cars/:carId/handover": true, "/api/cars/:carId/plans": true, "/api/cars/:carId/prove": true, "/api/cars/:carId/papers/:paper": true}

// mostKept is how large a page may be that is kept, bytes as it is kept.
const mostKept = 2 << 20

// twice writes an answer and notes it.
type twice struct {
	gin.ResponseWriter
	body bytes.Buffer
}

// Write writes and notes.
func (t *twice) Write(p []byte) (int, error) {
	t.body.Write(p)
	return t.ResponseWriter.Write(p)
}

// keepPages answers for a car that was handed over as it was answered before: all of its pages
// are made of the same, and nothing is worked out again.
func (s *Server) keepPages(c *gin.Context) {
	if c.Request.Method != http.MethodGet || !keptPaths[c.FullPath()] {
		return
	}
	ctx, car := c.Request.Context(), c.Param("carId")
	made, err := s.shop.MadeOf(ctx, car)
	if err != nil || made == "" {
		return // whoever answers finds out why
	}
	name := strings.TrimPrefix(c.Request.URL.RequestURI(), "/api/cars/")
	if _, name, _ = strings.Cut(name, "/"); name == "" {
		name = "car"
	}
	if page, err := s.shop.KeptPage(ctx, car, name, made); err == nil && page != nil {
		if head, body, ok := unpacked(page); ok {
			c.Abort()
			c.Data(http.StatusOK, head, body)
			return
		}
	}
	w := &twice{ResponseWriter: c.Writer}
	c.Writer = w
	c.Next()
	c.Writer = w.ResponseWriter
	if w.Status() != http.StatusOK || ctx.Err() != nil {
		return
	}
	// It is kept only where it was made of what it is kept for.
	if now, err := s.shop.MadeOf(ctx, car); err != nil || now != made {
		return
	}
	if page, ok := packedPage(w.Header().Get("Content-Type"), w.body.Bytes()); ok {
		if err := s.shop.KeepPage(ctx, car, name, made, page); err != nil {
			s.log.Warn("a page could not be kept", "car", car, "error", err)
		}
	}
}

// packedPage is a page as it is kept: what kind it is of, a line, and what it says, packed.
func packedPage(kind string, body []byte) ([]byte, bool) {
	var out bytes.Buffer
	z, err := gzip.NewWriterLevel(&out, gzip.BestSpeed)
	if err != nil {
		return nil, false
	}
	_, err = z.Write(append([]byte(kind+"\n"), body...))
	if err != nil || z.Close() != nil || out.Len() > mostKept {
		return nil, false
	}
	return out.Bytes(), true
}

func unpacked(page []byte) (kind string, body []byte, ok bool) {
	z, err := gzip.NewReader(bytes.NewReader(page))
	if err != nil {
		return "", nil, false
	}
	all, err := io.ReadAll(z)
	if err != nil {
		return "", nil, false
	}
	head, body, ok := bytes.Cut(all, []byte("\n"))
	return string(head), body, ok
}

// makePages has the pages of a car that was just handed over made and kept, while what they are
// made of is still at hand.
func (s *Server) makePages(carID string) {
	s.shop.Behind(func(ctx context.Context) {
		for _, page := range []string{"", "/handover", "/papers/report.svg?page=1", "/papers/record.svg?page=1"} {
			r, err := http.NewRequestWithContext(ctx, http.MethodGet, "http://localhost/api/cars/"+url.PathEscape(carID)+page, nil)
			if err != nil {
				return
			}
			s.self.ServeHTTP(&kept{head: http.Header{}, code: http.StatusOK}, r)
		}
	})
}
