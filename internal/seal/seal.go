// Package seal signs what may not be changed unseen, and says whether a signature holds:
// Ed25519 (RFC 8032). The private key is a file that only the server reads; whoever has
// the public key, 64 hexadecimal digits, can look for themselves.
package seal

import (
	"crypto/ed25519"
	"crypto/rand"
	"crypto/x509"
	"encoding/hex"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"strings"
)

// Key signs.
type Key struct{ private ed25519.PrivateKey }

// Public says whether something was signed by its Key.
type Public [ed25519.PublicKeySize]byte

// New makes a key.
func New() (Key, error) {
	_, private, err := ed25519.GenerateKey(rand.Reader)
	return Key{private}, err
}

// Public returns the half that may be known.
func (k Key) Public() Public { return Public(k.private.Public().(ed25519.PublicKey)) }

// purpose goes before what is signed, so that a signature made for something else is none.
const purpose = "dynacor seal\n"

// Sign returns the signature of a text, 64 bytes.
func (k Key) Sign(text []byte) []byte {
	return ed25519.Sign(k.private, append([]byte(purpose), text...))
}

// Holds reports whether a signature is that of a text.
func (p Public) Holds(text, signature []byte) bool {
	return ed25519.Verify(p[:], append([]byte(purpose), text...), signature)
}

func (p Public) String() string { return hex.EncodeToString(p[:]) }

// ErrNoPublic is what a text comes to that is no public key.
var ErrNoPublic = errors.New("a public key is 64 hexadecimal digits")

// ParsePublic reads what String wrote.
func ParsePublic(text string) (p Public, err error) {
	b, err := hex.DecodeString(strings.TrimSpace(text))
	if err != nil || len(b) != len(p) {
		return p, fmt.Errorf("%q: %w", text, ErrNoPublic)
	}
	return Public(b), nil
}

const pemType = "PRIVATE KEY"

// Save writes the key to a file that only its owner reads, PKCS #8 in PEM. A file that is
// there already is never written over.
func (k Key) Save(path string) error {
	der, err := x509.MarshalPKCS8PrivateKey(k.private)
	if err != nil {
		return err
	}
	f, err := os.OpenFile(path, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if err != nil {
		return err
	}
	if err := pem.Encode(f, &pem.Block{Type: pemType, Bytes: der}); err != nil {
		f.Close()
		return err
	}
	if err := f.Sync(); err != nil {
		f.Close()
		return err
	}
	return f.Close()
}

// Load reads a key from its file; one that others could read is refused.
func Load(path string) (Key, error) {
	info, err := os.Stat(path)
	if err != nil {
		return Key{}, err
	}
	if info.Mode().Perm()&0o077 != 0 {
		return Key{}, fmt.Errorf("%s can be read by others than its owner (%v): chmod 600 %s", path, info.Mode().Perm(), path)
	}
	b, err := os.ReadFile(path)
	if err != nil {
		return Key{}, err
	}
	block, _ := pem.Decode(b)
	if block == nil || block.Type != pemType {
		return Key{}, fmt.Errorf("%s is no private key in PEM", path)
	}
	any, err := x509.ParsePKCS8PrivateKey(block.Bytes)
	if err != nil {
		return Key{}, fmt.Errorf("%s: %w", path, err)
	}
	private, ok := any.(ed25519.PrivateKey)
	if !ok {
		return Key{}, fmt.Errorf("%s is no Ed25519 key", path)
	}
	return Key{private}, nil
}

// LoadOrMake reads the key of a file, and makes both where there is none.
func LoadOrMake(path string) (Key, error) {
	k, err := Load(path)
	if !errors.Is(err, fs.ErrNotExist) {
		return k, err
	}
	if k, err = New(); err != nil {
		return k, err
	}
	return k, k.Save(path)
}
