"""Logos invented for the tests in the ways people bring them, each with what a designer would make of it first."""
