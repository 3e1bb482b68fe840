#!/usr/bin/env node
const { join } = require('node:path')
const { main } = require('./load.js')

void main(process.argv.slice(2), join(__dirname, '..'))
