"""The contract between server and page: what is sent, and what is answered.

The page's types are generated from these models (`make types`), so the two cannot drift apart.
"""
