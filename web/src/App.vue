<template><router-view /></template>
