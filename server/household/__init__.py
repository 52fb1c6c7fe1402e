"""Who lives here: members, sign-in, dated answers; a write and its answer as one."""
