DROP TABLE pictures; DROP TABLE steps; DROP TABLE jobs;
