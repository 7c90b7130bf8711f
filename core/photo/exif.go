package photo

import (
	"bytes"
	"encoding/binary"
)

// Orientation is how the file of a JPEG or PNG says that it lies by its Exif, 1 to 8; 1 where it says nothing.
func Orientation(data []byte) int {
	if bytes.HasPrefix(data, []byte("\x89PNG")) {
		return pngOrientation(data[8:])
	}
	return jpegOrientation(data[2:])
}

// jpegOrientation looks through the segments ahead of the picture for Exif.
func jpegOrientation(data []byte) int {
	for len(data) >= 4 && data[0] == 0xff {
		marker, size := data[1], int(binary.BigEndian.Uint16(data[2:]))
		if marker == 0xda || size < 2 || size+2 > len(data) {
			break
		}
		body := data[4 : size+2]
		if marker == 0xe1 && bytes.HasPrefix(body, []byte("Exif\x00\x00")) {
			return tiffOrientation(body[6:])
		}
		data = data[size+2:]
	}
	return 1
}

// pngOrientation looks through the chunks for Exif.
func pngOrientation(data []byte) int {
	for len(data) >= 12 {
		size := int(binary.BigEndian.Uint32(data))
		if size < 0 || size > len(data)-12 {
			break
		}
		if string(data[4:8]) == "eXIf" {
			return tiffOrientation(data[8 : 8+size])
		}
		data = data[size+12:]
	}
	return 1
}

// tiffOrientation reads the tag of the orientation from the first directory.
func tiffOrientation(data []byte) int {
	const tag, header, entry = 0x0112, 8, 12
	if len(data) < header {
		return 1
	}
	var order binary.ByteOrder = binary.LittleEndian
	if string(data[:2]) == "MM" {
		order = binary.BigEndian
	}
	at := int(order.Uint32(data[4:]))
	if at < header || at > len(data)-2 {
		return 1
	}
	n := int(order.Uint16(data[at:]))
	for i := range n {
		from := at + 2 + i*entry
		if from > len(data)-entry {
			break
		}
		if order.Uint16(data[from:]) == tag {
			if v := int(order.Uint16(data[from+8:])); v >= 1 && v <= 8 {
				return v
			}
		}
	}
	return 1
}
