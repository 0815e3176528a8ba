"""What readings say against plan and limits."""
