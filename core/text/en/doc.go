// Package en understands English as recipes are written in it: which words are what (data/lexicon.csv), what a clause tells to do
// (data/deed.csv), what small phrases say (data/sign.csv), numbers, times and yields. What it finds are values with the places they stand at;
// nothing above it knows an English word for them.
package en
