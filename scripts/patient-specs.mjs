// A machine that is busy with other work may take its time over a real database; a lock that nobody gives back never
// ends. Units: milliseconds
jasmine.DEFAULT_TIMEOUT_INTERVAL = 300_000;
