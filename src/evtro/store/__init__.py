"""SQLite by plain SQL: jobs, history, library, backups. Nothing here computes a job."""
