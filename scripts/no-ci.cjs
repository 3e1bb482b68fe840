// In place of what tells a program that it runs where nobody looks: the screen is shown where there is a terminal.
module.exports = false
