"""Product types and the field sets they take."""
