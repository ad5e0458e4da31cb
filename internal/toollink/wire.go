package toollink

import (
	"bufio"
	"context"
	"errors"
	"net"
	"net/http"
	"time"

	"github.com/coder/websocket"
)

// Serve speaks with every tool that connects over TCP, until ctx ends.
func (g *Gateway) Serve(ctx context.Context, l net.Listener) error {
	stop := context.AfterFunc(ctx, func() { _ = l.Close() })
	defer stop()
	defer g.open.Wait()
	for {
		c, err := l.Accept()
		switch {
		case ctx.Err() != nil:
			return nil
		case errors.Is(err, net.ErrClosed):
			return nil
		case err != nil: // too many are open: those that go make room
			select {
			case <-ctx.Done():
				return nil
			case <-time.After(100 * time.Millisecond):
			}
			continue
		}
		go g.speak(ctx, &tcp{c, bufio.NewReaderSize(c, MostLine)})
	}
}

type tcp struct {
	net.Conn
	in *bufio.Reader
}

// ReadLine returns a line without its end. The rest of one that is too long is passed over.
func (t *tcp) ReadLine(ctx context.Context) ([]byte, error) {
	if at, ok := ctx.Deadline(); ok {
		_ = t.SetReadDeadline(at)
	}
	stop := context.AfterFunc(ctx, func() { _ = t.SetReadDeadline(time.Unix(1, 0)) })
	defer stop()
	line, err := t.in.ReadSlice('\n')
	if !errors.Is(err, bufio.ErrBufferFull) {
		return append([]byte(nil), line...), err
	}
	for errors.Is(err, bufio.ErrBufferFull) {
		_, err = t.in.ReadSlice('\n')
	}
	if err != nil {
		return nil, err
	}
	return nil, errTooLong
}

// WriteLine writes a line and its end.
func (t *tcp) WriteLine(ctx context.Context, line []byte) error {
	if at, ok := ctx.Deadline(); ok {
		_ = t.SetWriteDeadline(at)
	}
	_, err := t.Write(append(line, '\n'))
	return err
}

// Close ends the connection.
func (t *tcp) Close() { _ = t.Conn.Close() }

// ServeHTTP speaks with a tool over WebSocket, a line a message.
func (g *Gateway) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	c, err := websocket.Accept(w, r, &websocket.AcceptOptions{CompressionMode: websocket.CompressionDisabled})
	if err != nil {
		return // it has answered
	}
	c.SetReadLimit(MostLine)
	g.speak(r.Context(), &socket{c})
}

type socket struct{ *websocket.Conn }

// ReadLine returns a message. After one that is too long the connection is at its end.
func (s *socket) ReadLine(ctx context.Context) ([]byte, error) {
	_, line, err := s.Read(ctx)
	return line, err
}

// WriteLine writes a message.
func (s *socket) WriteLine(ctx context.Context, line []byte) error {
	return s.Write(ctx, websocket.MessageText, line)
}

// Close ends the connection.
func (s *socket) Close() { _ = s.Conn.Close(websocket.StatusNormalClosure, "") }
