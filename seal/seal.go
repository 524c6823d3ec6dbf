// Package seal signs what is released, with Ed25519 (RFC 8032), and checks it: who has the public key needs nothing else of the server.
// The private key is a file of its own, beside the database and never in it.
package seal

import (
	"crypto/ed25519"
	"crypto/rand"
	"crypto/sha256"
	"crypto/x509"
	"encoding/base64"
	"encoding/hex"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"

	"golang.org/x/crypto/argon2"
	"golang.org/x/crypto/chacha20poly1305"
)

// Kind is what a signature is of, so that none can stand for another.
type Kind string

// The kinds. What is signed is "nexufix ", the kind, a line feed, and the message.
const (
	Statement Kind = "statement" // a statement in the form of RFC 8785
	Paper     Kind = "paper"     // code, number, revision and fingerprint, a line each
	File      Kind = "file"      // a PDF without its last line
)

func message(kind Kind, text []byte) []byte {
	return append([]byte("nexufix "+string(kind)+"\n"), text...)
}

// Key signs.
type Key struct{ private ed25519.PrivateKey }

// fileName is the key in its folder.
const fileName = "signing.key"

// Load reads the key of a folder, and makes it where there is none yet.
func Load(dir string) (*Key, error) {
	raw, err := os.ReadFile(filepath.Join(dir, fileName))
	if errors.Is(err, fs.ErrNotExist) {
		return generate(dir)
	}
	if err != nil {
		return nil, err
	}
	return parse(raw)
}

// Rotate puts a new key in the place of a folder's.
func Rotate(dir string) (*Key, error) { return generate(dir) }

func generate(dir string) (*Key, error) {
	_, private, err := ed25519.GenerateKey(rand.Reader)
	if err != nil {
		return nil, err
	}
	k := &Key{private}
	return k, k.save(dir)
}

// save writes the key beside its place and puts it there whole.
func (k *Key) save(dir string) error {
	raw, err := k.pem()
	if err != nil {
		return err
	}
	if err := os.MkdirAll(dir, 0o700); err != nil {
		return err
	}
	f, err := os.CreateTemp(dir, ".signing-*") // 0600
	if err != nil {
		return err
	}
	_, err = f.Write(raw)
	if err = errors.Join(err, f.Sync(), f.Close()); err == nil {
		err = os.Rename(f.Name(), filepath.Join(dir, fileName))
	}
	if err != nil {
		return errors.Join(err, os.Remove(f.Name()))
	}
	return nil
}

func (k *Key) pem() ([]byte, error) {
	der, err := x509.MarshalPKCS8PrivateKey(k.private)
	return pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: der}), err
}

func parse(raw []byte) (*Key, error) {
	block, _ := pem.Decode(raw)
	if block == nil {
		return nil, errors.New("the signing key is no PEM")
	}
	key, err := x509.ParsePKCS8PrivateKey(block.Bytes)
	if err != nil {
		return nil, fmt.Errorf("the signing key: %w", err)
	}
	private, ok := key.(ed25519.PrivateKey)
	if !ok {
		return nil, errors.New("the signing key is none of Ed25519")
	}
	return &Key{private}, nil
}

// Public is the key that checks.
func (k *Key) Public() Public { return Public{k.private.Public().(ed25519.PublicKey)} }

// Sign is the signature of a message, in letters for addresses (RFC 4648, 5).
func (k *Key) Sign(kind Kind, text []byte) string {
	return base64.RawURLEncoding.EncodeToString(ed25519.Sign(k.private, message(kind, text)))
}

// The form of an encrypted key: argon2id (RFC 9106, second choice of its section 4) and XChaCha20-Poly1305, with a salt and a nonce before
// what is encrypted.
const (
	encryptedType = "NEXUFIX ENCRYPTED KEY"
	saltLength    = 16
)

func derived(password string, salt []byte) []byte {
	return argon2.IDKey([]byte(password), salt, 3, 64*1024, 4, chacha20poly1305.KeySize)
}

// Encrypted is the key under a password, for a backup.
func (k *Key) Encrypted(password string) ([]byte, error) {
	plain, err := k.pem()
	if err != nil {
		return nil, err
	}
	head := make([]byte, saltLength+chacha20poly1305.NonceSizeX)
	rand.Read(head) // never fails
	c, err := chacha20poly1305.NewX(derived(password, head[:saltLength]))
	if err != nil {
		return nil, err
	}
	return pem.EncodeToMemory(&pem.Block{Type: encryptedType, Bytes: c.Seal(head, head[saltLength:], plain, nil)}), nil
}

// Restore puts an encrypted key in the place of a folder's.
func Restore(dir string, raw []byte, password string) (*Key, error) {
	block, _ := pem.Decode(raw)
	if block == nil || block.Type != encryptedType || len(block.Bytes) < saltLength+chacha20poly1305.NonceSizeX {
		return nil, errors.New("that is no encrypted key")
	}
	c, err := chacha20poly1305.NewX(derived(password, block.Bytes[:saltLength]))
	if err != nil {
		return nil, err
	}
	head, rest := block.Bytes[:saltLength+chacha20poly1305.NonceSizeX], block.Bytes[saltLength+chacha20poly1305.NonceSizeX:]
	plain, err := c.Open(nil, head[saltLength:], rest, nil)
	if err != nil {
		return nil, errors.New("that is not its password, or it was changed")
	}
	k, err := parse(plain)
	if err != nil {
		return nil, err
	}
	return k, k.save(dir)
}

// Public checks signatures.
type Public struct{ key ed25519.PublicKey }

// ID is the beginning of the SHA-256 of a key, by which it is named.
func (p Public) ID() string {
	sum := sha256.Sum256(p.key)
	return hex.EncodeToString(sum[:4])
}

// PEM is the key as openssl reads it (PKIX).
func (p Public) PEM() string {
	der, err := x509.MarshalPKIXPublicKey(p.key)
	if err != nil {
		return "" // it always can be written
	}
	return string(pem.EncodeToMemory(&pem.Block{Type: "PUBLIC KEY", Bytes: der}))
}

// ParsePublic reads the keys of a PEM file.
func ParsePublic(text string) (all []Public, err error) {
	rest := []byte(text)
	for {
		var block *pem.Block
		if block, rest = pem.Decode(rest); block == nil {
			break
		}
		key, err := x509.ParsePKIXPublicKey(block.Bytes)
		if err != nil {
			return nil, err
		}
		public, ok := key.(ed25519.PublicKey)
		if !ok {
			return nil, errors.New("a key is none of Ed25519")
		}
		all = append(all, Public{public})
	}
	if all == nil {
		return nil, errors.New("there is no public key in it (PEM)")
	}
	return all, nil
}

// Verifies reports whether a signature is of a message and this key's.
func (p Public) Verifies(kind Kind, text []byte, signature string) bool {
	raw, err := base64.RawURLEncoding.Strict().DecodeString(signature)
	return err == nil && len(p.key) == ed25519.PublicKeySize && ed25519.Verify(p.key, message(kind, text), raw)
}
