// Package lan knows the names and addresses by which this machine is reached on the network it is in, and
// makes the certificate it shows there.
package lan

import (
	"net"
	"net/netip"
	"os"
	"slices"
	"strconv"
	"strings"
)

// Loopback reports whether an address to listen on is reached from this machine alone.
func Loopback(address string) bool {
	host, _, err := net.SplitHostPort(address)
	if err != nil {
		return false
	}
	return ofLoopback(host)
}

func ofLoopback(host string) bool {
	if strings.EqualFold(host, "localhost") {
		return true
	}
	ip, err := netip.ParseAddr(host)
	return err == nil && ip.Unmap().IsLoopback()
}

// Own are the addresses of this machine that others on its networks reach it by, those that are easier to
// type first.
func Own() []netip.Addr {
	list, err := net.InterfaceAddrs()
	if err != nil {
		return nil // a machine without networks has no addresses
	}
	var own []netip.Addr
	for _, a := range list {
		prefix, err := netip.ParsePrefix(a.String())
		if err != nil {
			continue
		}
		ip := prefix.Addr().Unmap()
		if !ip.IsLoopback() && !ip.IsLinkLocalUnicast() && !slices.Contains(own, ip) {
			own = append(own, ip)
		}
	}
	slices.SortStableFunc(own, func(a, b netip.Addr) int { return a.BitLen() - b.BitLen() })
	return own
}

// Name is what this machine is called on its network, ending in .local; "" where it has no name that can be
// typed.
func Name() string {
	host, err := os.Hostname()
	if err != nil {
		return ""
	}
	return local(host)
}

func local(host string) string {
	host, _, _ = strings.Cut(strings.ToLower(host), ".")
	if host == "" || host == "localhost" || len(host) > 63 ||
		strings.Trim(host, "abcdefghijklmnopqrstuvwxyz0123456789-") != "" {
		return ""
	}
	return host + ".local"
}

// Addresses are the addresses of a server on a port as they can be typed.
func Addresses(scheme string, port int, own []netip.Addr, name string) []string {
	list := []string{}
	for _, ip := range own {
		list = append(list, scheme+"://"+netip.AddrPortFrom(ip, uint16(port)).String())
	}
	if name != "" {
		list = append(list, scheme+"://"+net.JoinHostPort(name, strconv.Itoa(port)))
	}
	return list
}

// hostOf is the name or address in a Host header, without its port and brackets; false where it is
// malformed.
func hostOf(header string) (host string, address netip.Addr, ok bool) {
	if ip, err := netip.ParseAddrPort(header); err == nil {
		return "", ip.Addr().Unmap(), true
	}
	if inner, bracketed := strings.CutPrefix(header, "["); bracketed {
		inner, bracketed = strings.CutSuffix(inner, "]")
		ip, err := netip.ParseAddr(inner)
		return "", ip.Unmap(), bracketed && err == nil
	}
	host = header
	if name, port, split := strings.Cut(header, ":"); split {
		if _, err := strconv.ParseUint(port, 10, 16); err != nil {
			return "", netip.Addr{}, false
		}
		host = name
	}
	if ip, err := netip.ParseAddr(host); err == nil {
		return "", ip.Unmap(), true
	}
	return strings.ToLower(host), netip.Addr{}, host != ""
}

// Here reports whether a request that came over loopback calls this machine by a name of loopback. No other
// site's name can be made to stand for that.
func Here(header string) bool {
	host, address, ok := hostOf(header)
	return ok && (host == "localhost" || address.IsValid() && address.IsLoopback())
}

// Known reports whether a request that came over the network calls this machine by one of its addresses,
// or by a name in .local, which only this network gives.
func Known(header string, own []netip.Addr) bool {
	host, address, ok := hostOf(header)
	if !ok {
		return false
	}
	if address.IsValid() {
		return address.IsLoopback() || slices.Contains(own, address)
	}
	name, found := strings.CutSuffix(strings.TrimSuffix(host, "."), ".local")
	return host == "localhost" || found && local(name) == name+".local"
}
