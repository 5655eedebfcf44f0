<template><p>Hypomet</p></template>
