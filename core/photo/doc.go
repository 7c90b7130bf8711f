// Package photo reads ordinary photos of a panel: how rough it is, from striped lamps that it
// mirrors, and which share of it still shines, from a picture of the wiped dry section.
//
// Lengths on the panel and the lamp are in mm, heights in µm, slopes in rad, angles of haze in
// mrad. A panel point x across the stripes shows the place
//
//	u = M x + 2 D s
//
// of the lamp, with D the distance of lamp and panel, s the slope of the surface across the
// stripes and M what the picture is stretched by. Waves longer than 1.8 mm are peel, shorter
// ones pebble.
package photo
