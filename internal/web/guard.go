package web

import (
	"net"
	"net/http"
	"net/netip"
	"os"
	"strings"
	"sync"
	"time"

	"github.com/gin-gonic/gin"

	"waxplanus/internal/shop/keep"
	"waxplanus/internal/wording"
)

// hosts are the names under which the shop server may be called. An address of numbers
// always is: a page of somebody else can have its own name point here, but not a number.
type hosts map[string]bool

func hostsOf(names []string) hosts {
	out := hosts{"localhost": true}
	if name, err := os.Hostname(); err == nil {
		names = append(names, name, name+".local")
	}
	for _, n := range names {
		out[strings.ToLower(n)] = true
	}
	return out
}

func (h hosts) may(host string) bool {
	if name, _, err := net.SplitHostPort(host); err == nil {
		host = name
	}
	host = strings.TrimSuffix(strings.Trim(strings.ToLower(host), "[]"), ".")
	_, err := netip.ParseAddr(host)
	return err == nil || h[host]
}

// guard refuses requests under a name that is not the server's, and tells browsers what a
// page may do.
func (s *Server) guard(c *gin.Context) {
	c.Header("X-Content-Type-Options", "nosniff")
	c.Header("Referrer-Policy", "no-referrer")
	c.Header("Content-Security-Policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' data:; frame-ancestors 'none'; base-uri 'none'; form-action 'none'")
	if !s.hosts.may(c.Request.Host) {
		s.fail(c, &unreadable{http.StatusMisdirectedRequest, wording.Unreadable{Why: wording.OtherHost}})
		return
	}
	switch path := c.Request.URL.Path; {
	case path == "/api/lamp/picture" || strings.HasPrefix(path, "/api/peel/"): // of no car, always the same
		c.Header("Cache-Control", "private, max-age=86400")
	case strings.HasPrefix(path, "/api/"):
		c.Header("Cache-Control", "no-store")
	}
	most := int64(mostBody)
	if strings.HasSuffix(c.FullPath(), "/photos") && c.Request.Method == http.MethodPost {
		most = mostPhoto
	}
	if c.FullPath() == "/api/imports" && c.Request.Method == http.MethodPost {
		most = keep.MostCarFile + 1
		_ = http.NewResponseController(c.Writer).SetReadDeadline(time.Now().Add(carWithin)) // else the usual one holds
	}
	if wholeShop[c.FullPath()] && c.Request.Method == http.MethodPost {
		_ = http.NewResponseController(c.Writer).SetWriteDeadline(time.Time{}) // else the usual one holds
	}
	c.Request.Body = http.MaxBytesReader(c.Writer, c.Request.Body, most)
}

// wholeShop are requests that go through all of a shop: their answers take as long as that.
var wholeShop = map[string]bool{"/api/backups": true, "/api/backups/:name/check": true, "/api/verify": true}

// carWithin is how long a file of a car may take to arrive.
const carWithin = 10 * time.Minute

// perAddress counts what one address has open.
type perAddress struct {
	mu   sync.Mutex
	most int
	open map[string]int
}

func newPerAddress(most int) *perAddress { return &perAddress{most: most, open: map[string]int{}} }

// take counts one more; done counts it off. ok is false where the address has too many.
func (p *perAddress) take(addr string) (done func(), ok bool) {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		host = addr
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.open[host] >= p.most {
		return nil, false
	}
	p.open[host]++
	return sync.OnceFunc(func() {
		p.mu.Lock()
		defer p.mu.Unlock()
		if p.open[host]--; p.open[host] == 0 {
			delete(p.open, host)
		}
	}), true
}

// How many connections and streams one address may have open: a room full of tablets behind
// one address stays well below.
const (
	mostConnections = 600
	mostStreams     = 150
)

// Limit closes what comes over the number of connections that one address may have.
func Limit(l net.Listener) net.Listener { return &limited{l, newPerAddress(mostConnections)} }

type limited struct {
	net.Listener
	open *perAddress
}

// Accept waits for the next connection that fits.
func (l *limited) Accept() (net.Conn, error) {
	for {
		c, err := l.Listener.Accept()
		if err != nil {
			return nil, err
		}
		if done, ok := l.open.take(c.RemoteAddr().String()); ok {
			return &counted{c, done}, nil
		}
		_ = c.Close() // it was never served
	}
}

type counted struct {
	net.Conn
	done func()
}

// Close closes the connection and counts it off.
func (c *counted) Close() error {
	c.done()
	return c.Conn.Close()
}

// Loopback says whether only this machine can reach an address to serve on.
func Loopback(addr string) bool {
	host, _, err := net.SplitHostPort(addr)
	if err != nil {
		return false
	}
	ip, err := netip.ParseAddr(host)
	return host == "localhost" || err == nil && ip.IsLoopback()
}

// noMethod refuses a method that a path does not have.
func (s *Server) noMethod(c *gin.Context) {
	s.fail(c, &unreadable{http.StatusMethodNotAllowed, wording.Unreadable{Why: wording.OtherMethod, Is: c.Request.Method}})
}
