package exchange

import (
	"bytes"
	"strings"
	"unicode/utf8"

	"golang.org/x/text/encoding"
	"golang.org/x/text/encoding/charmap"
	"golang.org/x/text/encoding/unicode"
)

// textOf is a file as text with plain line ends, and in words how it was read where it does not say that
// itself. Nothing is lost: what is no UTF-8 and no UTF-16 is Latin-1, of which every byte is a character.
func textOf(data []byte) (text, said string) {
	var from encoding.Encoding
	switch {
	case bytes.HasPrefix(data, []byte{0xff, 0xfe}), bytes.HasPrefix(data, []byte{0xfe, 0xff}):
		from = unicode.UTF16(unicode.LittleEndian, unicode.UseBOM)
	case wide(data, 1):
		from, said = unicode.UTF16(unicode.LittleEndian, unicode.IgnoreBOM), "The file was read as UTF-16."
	case wide(data, 0):
		from, said = unicode.UTF16(unicode.BigEndian, unicode.IgnoreBOM), "The file was read as UTF-16."
	case !utf8.Valid(data):
		return lines(latin1(data)), "The file is no UTF-8, and was read as Latin-1: look whether letters with marks are right."
	}
	if from != nil {
		decoded, err := from.NewDecoder().Bytes(data)
		if err != nil {
			return lines(latin1(data)), "The file was read as Latin-1: look whether letters with marks are right."
		}
		data = decoded
	}
	return lines(strings.TrimPrefix(string(data), "\ufeff")), said
}

// wide reports whether every other byte from one on is nearly always zero, as in UTF-16 of western text.
func wide(data []byte, from int) bool {
	zeros, n := 0, 0
	for i := from; i < len(data) && i < 4000; i += 2 {
		n++
		if data[i] == 0 {
			zeros++
		}
	}
	return len(data)%2 == 0 && n >= 4 && zeros*10 >= n*9
}

// latin1 reads bytes as Windows-1252, which is Latin-1 with characters where that has controls.
func latin1(data []byte) string {
	text, err := charmap.Windows1252.NewDecoder().Bytes(data)
	if err != nil {
		return strings.ToValidUTF8(string(data), "")
	}
	return string(text)
}

// lines gives a text the line ends of this package, whatever it has.
func lines(text string) string {
	return strings.ReplaceAll(strings.ReplaceAll(text, "\r\n", "\n"), "\r", "\n")
}

// decimal is a number as it is read here: a comma may stand for the point.
func decimal(text string) string {
	if strings.Count(text, ",") == 1 && !strings.Contains(text, ".") {
		return strings.Replace(text, ",", ".", 1)
	}
	return text
}
