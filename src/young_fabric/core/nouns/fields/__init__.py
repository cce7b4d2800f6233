"""Fields: what can be recorded, built in and own; what conditions and cells say of them."""
