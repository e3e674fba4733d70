package publish

import (
	"bytes"
	"crypto/ed25519"
	"crypto/sha256"
	"encoding/base64"
	"encoding/hex"
	"encoding/json"
	"fmt"
)

// An edition's data end in their own sum: the SHA-256 of every byte before it, so that any changed byte is seen
// without a database. Before the sum stands the signature of all bytes before that, where there is a key.
//
//	{...,"signature":{"key":"<base64>","ed25519":"<base64>"},"sum":"<64 hexadecimal digits>"}
const (
	signatureField = `,"signature":`
	sumField       = `,"sum":"`
	sumTail        = `"}`
	sumLength      = len(sumField) + 2*sha256.Size + len(sumTail)
)

// Signature is that of the publication over the bytes before it.
type Signature struct {
	Key     []byte `json:"key"`     // public, 32 bytes
	Ed25519 []byte `json:"ed25519"` // 64 bytes, RFC 8032
}

// seal ends a JSON object with its signature, where there is a key, and its sum.
func seal(body []byte, key ed25519.PrivateKey) []byte {
	out := bytes.Clone(bytes.TrimSuffix(body, []byte("}")))
	if key != nil {
		public, _ := key.Public().(ed25519.PublicKey)
		out = fmt.Appendf(out, `%s{"key":"%s","ed25519":"%s"}`, signatureField, base64.StdEncoding.EncodeToString(public), base64.StdEncoding.EncodeToString(ed25519.Sign(key, out)))
	}
	sum := sha256.Sum256(out)
	return append(append(append(out, sumField...), hex.EncodeToString(sum[:])...), sumTail...)
}

// unseal is what an edition's own sum covers, and whether that is its sum; false for has where it has none.
func unseal(doc []byte) (covered []byte, has, whole bool) {
	if len(doc) < sumLength {
		return nil, false, false
	}
	covered = doc[:len(doc)-sumLength]
	end := doc[len(covered):]
	if !bytes.HasPrefix(end, []byte(sumField)) || !bytes.HasSuffix(end, []byte(sumTail)) {
		return nil, false, false
	}
	sum := sha256.Sum256(covered)
	return covered, true, hex.EncodeToString(sum[:]) == string(end[len(sumField):len(end)-len(sumTail)])
}

// signatureOf is the signature at the end of what a sum covers, and the bytes that it signs; nil where there is none.
func signatureOf(covered []byte) (signed []byte, s *Signature) {
	at := bytes.LastIndex(covered, []byte(signatureField))
	if at < 0 || json.Unmarshal(covered[at+len(signatureField):], &s) != nil || s == nil || len(s.Key) != ed25519.PublicKeySize {
		return nil, nil
	}
	return covered[:at], s
}

// The last line of a page and of a package holds the sum of all bytes before it.
const sealMark = "talloak-edition-seal sha256 "

func sealOf(content []byte) string {
	sum := sha256.Sum256(content)
	return sealMark + hex.EncodeToString(sum[:])
}

const sealLength = len(sealMark) + 2*sha256.Size
