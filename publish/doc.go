// Package publish turns a review's board into an edition: its data, which hold every figure with what it rests on and
// the facts themselves, and a web page in one file. Once frozen both are bytes that never change. Everything else that
// comes out of an edition (PDF, plots, cards, text, data package) is made of its data alone, and so is the check that
// anybody can make of it.
//
// It computes nothing of the job; figures and rulings come from the rooms of the core. Start from Compose and Check.
package publish
