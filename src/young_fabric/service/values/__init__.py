"""What products hold, written by one way each: values, stock, variants, memberships; judged, converted and counted anew."""
