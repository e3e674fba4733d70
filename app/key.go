package app

import (
	"crypto/ed25519"
	"crypto/rand"
	"crypto/x509"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"os"
	"path/filepath"
)

// KeyFile is where the publication's key is kept: the file that TALLOAK_KEY names, else one in the folder of the
// user's settings. Empty where there is no such folder.
func KeyFile() string {
	if name := os.Getenv("TALLOAK_KEY"); name != "" {
		return name
	}
	folder, err := os.UserConfigDir()
	if err != nil {
		return ""
	}
	return filepath.Join(folder, "talloak", "publication.key")
}

// NewKey makes the publication's key (Ed25519, RFC 8032; PKCS #8 in PEM), where there is none yet.
func NewKey(file string) (ed25519.PublicKey, error) {
	if file == "" {
		return nil, errors.New("there is no folder for settings here: set TALLOAK_KEY to the name of a file")
	}
	public, private, err := ed25519.GenerateKey(rand.Reader)
	if err != nil {
		return nil, err
	}
	der, err := x509.MarshalPKCS8PrivateKey(private)
	if err != nil {
		return nil, err
	}
	if err := os.MkdirAll(filepath.Dir(file), 0o700); err != nil {
		return nil, err
	}
	f, err := os.OpenFile(file, os.O_WRONLY|os.O_CREATE|os.O_EXCL, 0o600)
	if errors.Is(err, fs.ErrExist) {
		return nil, fmt.Errorf("there is a key in %s already: editions are signed by it, and it is not written over", file)
	}
	if err != nil {
		return nil, err
	}
	return public, errors.Join(pem.Encode(f, &pem.Block{Type: "PRIVATE KEY", Bytes: der}), f.Sync(), f.Close())
}

// ReadKey is the key of a file; fs.ErrNotExist where there is none.
func ReadKey(file string) (ed25519.PrivateKey, error) {
	text, err := os.ReadFile(file)
	if err != nil {
		return nil, err
	}
	block, _ := pem.Decode(text)
	if block == nil || block.Type != "PRIVATE KEY" {
		return nil, fmt.Errorf("%s holds no private key in PEM", file)
	}
	parsed, err := x509.ParsePKCS8PrivateKey(block.Bytes)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", file, err)
	}
	key, ok := parsed.(ed25519.PrivateKey)
	if !ok {
		return nil, fmt.Errorf("%s holds a key of another kind than Ed25519", file)
	}
	return key, nil
}

// PublicPEM is a public key as others are given it.
func PublicPEM(key ed25519.PublicKey) ([]byte, error) {
	der, err := x509.MarshalPKIXPublicKey(key)
	return pem.EncodeToMemory(&pem.Block{Type: "PUBLIC KEY", Bytes: der}), err
}

// ParsePublic reads a public key as PublicPEM writes it.
func ParsePublic(text []byte) (ed25519.PublicKey, error) {
	block, _ := pem.Decode(text)
	if block == nil || block.Type != "PUBLIC KEY" {
		return nil, errors.New("it holds no public key in PEM, as `talloak key show` prints one")
	}
	parsed, err := x509.ParsePKIXPublicKey(block.Bytes)
	if err != nil {
		return nil, err
	}
	key, ok := parsed.(ed25519.PublicKey)
	if !ok {
		return nil, errors.New("it holds a key of another kind than Ed25519")
	}
	return key, nil
}

// signingKey is the key that editions are signed by; nil where none was made.
func (a *App) signingKey() (ed25519.PrivateKey, error) {
	if a.KeyFile == "" {
		return nil, nil
	}
	key, err := ReadKey(a.KeyFile)
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	return key, err
}
