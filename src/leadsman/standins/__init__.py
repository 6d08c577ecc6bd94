"""Small simulated services that ship with the product; none of them knows the world outside."""
