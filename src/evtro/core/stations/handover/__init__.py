"""Station Handover: the job sheet and what is left with the customer."""
