"""What commands that only look share: boards, findings, filters, what others mean by a press."""
