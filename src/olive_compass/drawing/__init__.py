"""Sheets and pictures: values in, text or a figure out."""
