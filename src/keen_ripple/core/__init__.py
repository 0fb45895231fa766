"""The rules of motion. Pure: values in, values out; no clock, files, SQL, web or drawing."""
