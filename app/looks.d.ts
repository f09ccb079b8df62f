declare module "virtual:looks.css";
