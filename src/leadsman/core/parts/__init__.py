"""What a plan is made of when it is bought and laid: joints, chains of adapters, rolls, the list, the laying sheet.

May import analysis and what lies below it.
"""
