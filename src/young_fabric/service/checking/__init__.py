"""What is wrong or worth a look before a release."""
