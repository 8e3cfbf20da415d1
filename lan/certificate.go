package lan

import (
	"crypto/ecdsa"
	"crypto/elliptic"
	"crypto/rand"
	"crypto/sha256"
	"crypto/tls"
	"crypto/x509"
	"crypto/x509/pkix"
	"encoding/pem"
	"errors"
	"fmt"
	"io/fs"
	"math/big"
	"net"
	"net/netip"
	"os"
	"strings"
	"time"

	"envex/disk"
)

// How long a certificate holds, and how long before that it is made anew.
const (
	certificateTime = 398 * 24 * time.Hour
	renewBefore     = 30 * 24 * time.Hour
)

// Certificate is the one in the file at path, where it still holds, or a new one that is kept there. Nobody
// vouches for it: who connects compares its fingerprint.
func Certificate(path string, now time.Time, own []netip.Addr, name string) (tls.Certificate, error) {
	data, err := os.ReadFile(path)
	if err == nil {
		if c, err := tls.X509KeyPair(data, data); err == nil && now.Add(renewBefore).Before(c.Leaf.NotAfter) {
			return c, nil
		}
	} else if !errors.Is(err, fs.ErrNotExist) {
		return tls.Certificate{}, fmt.Errorf("lan: %w", err)
	}
	if data, err = made(now, own, name); err != nil {
		return tls.Certificate{}, fmt.Errorf("lan: make a certificate: %w", err)
	}
	if err := disk.Write(path, data, 0o600); err != nil {
		return tls.Certificate{}, fmt.Errorf("lan: keep the certificate: %w", err)
	}
	c, err := tls.X509KeyPair(data, data)
	if err != nil {
		return c, fmt.Errorf("lan: make a certificate: %w", err)
	}
	return c, nil
}

// made is a certificate and its key.
func made(now time.Time, own []netip.Addr, name string) ([]byte, error) {
	key, err := ecdsa.GenerateKey(elliptic.P256(), rand.Reader)
	if err != nil {
		return nil, err
	}
	serial, err := rand.Int(rand.Reader, new(big.Int).Lsh(big.NewInt(1), 120))
	if err != nil {
		return nil, err
	}
	template := &x509.Certificate{
		SerialNumber: serial, Subject: pkix.Name{CommonName: "Envex on this network"},
		NotBefore: now.Add(-time.Hour), NotAfter: now.Add(certificateTime),
		KeyUsage: x509.KeyUsageDigitalSignature, ExtKeyUsage: []x509.ExtKeyUsage{x509.ExtKeyUsageServerAuth},
		BasicConstraintsValid: true,
		DNSNames:              []string{"localhost"},
	}
	if name != "" {
		template.DNSNames = append(template.DNSNames, name)
	}
	for _, ip := range own {
		template.IPAddresses = append(template.IPAddresses, net.IP(ip.AsSlice()))
	}
	der, err := x509.CreateCertificate(rand.Reader, template, template, &key.PublicKey, key)
	if err != nil {
		return nil, err
	}
	private, err := x509.MarshalPKCS8PrivateKey(key)
	if err != nil {
		return nil, err
	}
	data := pem.EncodeToMemory(&pem.Block{Type: "CERTIFICATE", Bytes: der})
	return append(data, pem.EncodeToMemory(&pem.Block{Type: "PRIVATE KEY", Bytes: private})...), nil
}

// Fingerprint is the SHA-256 of a certificate, as browsers show it.
func Fingerprint(c tls.Certificate) string {
	if len(c.Certificate) == 0 {
		return ""
	}
	sum := sha256.Sum256(c.Certificate[0])
	parts := make([]string, len(sum))
	for i, b := range sum {
		parts[i] = fmt.Sprintf("%02X", b)
	}
	return strings.Join(parts, ":")
}
