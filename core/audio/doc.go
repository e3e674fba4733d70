// Package audio is what is worked out of a voice and of a tone: SINAD, the bandwidth of an FM signal and where its
// carrier vanishes.
package audio
