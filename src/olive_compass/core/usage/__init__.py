"""What was done, counted: events come down to tallies, and tallies add up."""
