"""All definitions of a shop at one moment, above the nouns they are of."""
