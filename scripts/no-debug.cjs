// Stands in for packages that tell developers of oclif what it does: says nothing, colours nothing.
module.exports = () => Object.assign(() => {}, { enabled: false })
module.exports.default = module.exports
module.exports.stdout = false
module.exports.stderr = false
