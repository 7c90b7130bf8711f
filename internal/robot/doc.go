// Package robot is a painter that works whole jobs over the HTTP contract as the pages do,
// with a truth that only it knows, and holds after every answer what must always hold. A job
// is drawn from a script of bytes: the same script is the same job, a zero is the calm choice
// and so is a script that has ended, so that cutting a script makes its job simpler.
package robot
